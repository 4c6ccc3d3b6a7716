using AmberCrate.Core.Machine;
using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Observing;

/// <summary>Asks the query command of a system whose package database is not a documented text.</summary>
/// <param name="root">The folder that counts as <c>/</c>; only the machine's own can be asked.</param>
public sealed class PackageQuery(string root) : ISystemObserver
{
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(20);

    /// <summary>The commands; each writes a name and a version a line, with this between them.</summary>
    private static readonly (string Program, string[] Arguments, char Between, string Removal)[] Commands =
    [
        ("rpm", ["-qa", "--queryformat", "%{NAME}\t%{VERSION}-%{RELEASE}\n"], '\t', "rpm -e"),
        ("pacman", ["-Q"], ' ', "pacman -R"),
    ];

    /// <inheritdoc/>
    public IEnumerable<ObservedApp> Observe(Action<string> say, CancellationToken cancel)
    {
        if (root != "/") yield break;
        foreach (var (program, arguments, between, removal) in Commands)
        {
            if (ProgramSearch.Trusted(program) is not { } path) continue;
            foreach (var line in Lines(path, arguments, say))
            {
                var words = line.Split(between, 2, StringSplitOptions.TrimEntries);
                if (words.Length == 2 && words[0].Length > 0)
                    yield return new ObservedApp(ObservedKind.SystemPackage, words[0])
                    {
                        VersionText = words[1], Places = [path], Removal = $"{removal} {words[0]}",
                    };
            }
        }
    }

    private static string[] Lines(string program, string[] arguments, Action<string> say)
    {
        var answer = SystemProgram.Ask(program, arguments, Patience);
        if (answer.Code == 0) return answer.Output.Split('\n', StringSplitOptions.RemoveEmptyEntries);
        say($"{program} does not list the system's packages: "
            + (answer.Code is { } code ? $"it ended with {code}" : answer.Errors));
        return [];
    }
}
