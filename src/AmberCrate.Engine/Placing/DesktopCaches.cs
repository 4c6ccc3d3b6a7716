using AmberCrate.Core.Machine;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Layout;

namespace AmberCrate.Engine.Placing;

/// <summary>
/// What a desktop must learn after something was placed: it keeps lists of its own, which the system's programs write again.
/// </summary>
/// <param name="layout">Where everything lies.</param>
public sealed class DesktopCaches(MachineLayout layout)
{
    private static readonly TimeSpan Timeout = TimeSpan.FromSeconds(60);

    /// <summary>The programs of the system that are run after something of these kinds was placed or taken away.</summary>
    public IReadOnlyList<string> ProgramsFor(IEnumerable<PlaceKind> kinds) =>
        [.. CommandsFor(kinds).Select(command => command.Name)];

    /// <summary>
    /// Has the lists written again. What fails is said and does no harm: desktops look at the folders themselves sooner or later.
    /// </summary>
    /// <param name="kinds">The kinds of what was placed or taken away.</param>
    /// <param name="say">Receives what was run, and its result.</param>
    public void Refresh(IEnumerable<PlaceKind> kinds, Action<string> say)
    {
        foreach (var (name, program, arguments) in CommandsFor(kinds).Where(
            command => Directory.Exists(command.Arguments[^1]))) say($"{name}: {Run(program, arguments)}");
    }

    private static string Run(string program, string[] arguments)
    {
        var answer = SystemProgram.Ask(program, arguments, Timeout);
        return answer.Code switch
        {
            0 => "done",
            { } code => $"ended with {code}: {(answer.Errors + answer.Output).Trim()}",
            null => answer.Errors,
        };
    }

    private IEnumerable<(string Name, string Program, string[] Arguments)> CommandsFor(IEnumerable<PlaceKind> kinds)
    {
        var placed = kinds.ToHashSet();
        foreach (var (kind, name, arguments) in new (PlaceKind, string, string[])[]
        {
            (PlaceKind.MimeType, "update-mime-database", [Path.Combine(layout.DataFolder, "mime")]),
            (PlaceKind.DesktopEntry, "update-desktop-database", ["-q", Path.Combine(layout.DataFolder, "applications")]),
            (PlaceKind.Icon, "gtk-update-icon-cache", ["-q", "-t", "-f", Path.Combine(layout.DataFolder, "icons", "hicolor")]),
            (PlaceKind.Font, "fc-cache", [Path.Combine(layout.DataFolder, "fonts")]),
        })
        {
            if (placed.Contains(kind) && ProgramSearch.Trusted(name) is { } program)
                yield return (name, program, arguments);
        }
    }
}
