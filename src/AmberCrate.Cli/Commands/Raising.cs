using System.ComponentModel;
using System.Diagnostics;
using AmberCrate.Cli.Views;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Rights;

namespace AmberCrate.Cli.Commands;

/// <summary>Runs the same command once more with all rights, where everyone's apps are to be changed and this process may not.</summary>
internal sealed class Raising
{
    private const string Setting = "ACRATE_RAISE";

    /// <summary>Variables that decide how the program works; the others are for the system's own rules to pass on.</summary>
    private static readonly string[] Proxies = ["http_proxy", "https_proxy", "all_proxy", "no_proxy", "HTTP_PROXY", "HTTPS_PROXY", "ALL_PROXY", "NO_PROXY", "NO_COLOR"];

    /// <summary>What belongs to this user's own folders, or is passed on by options.</summary>
    private static readonly string[] NotPassedOn = [Setting, "ACRATE_ROOT", "ACRATE_CACHE"];

    private readonly MachineLayout _layout;
    private readonly Problem _missing;
    private readonly string _wanted;
    private readonly RaisingWay? _way;
    private readonly string? _root;

    private Raising(MachineLayout layout, Problem missing, string wanted, RaisingWay? way, string? root) => (_layout, _missing, _wanted, _way, _root) = (layout, missing, wanted, way, root);

    /// <summary>The word for the way; null where there is none.</summary>
    public string? By => _way?.Name;

    /// <summary>What cannot be done without more rights.</summary>
    public string Lack => _missing.What;

    /// <summary>Finds out whether more rights are needed.</summary>
    /// <param name="layout">Everyone's layout.</param>
    /// <param name="root">The folder that is taken for /; null for / itself.</param>
    /// <returns>Null where this process may do everything, or where nobody could do more.</returns>
    /// <exception cref="ProblemException">The way that was set is not one.</exception>
    public static Raising? Of(MachineLayout layout, string? root)
    {
        if (!FolderRights.CanBeRaised || FolderRights.Missing(layout) is not { Code: ProblemCode.NoRights } missing) return null;
        var wanted = Environment.GetEnvironmentVariable(Setting) is { Length: > 0 } set ? set : null;
        if (wanted is not null && !RaisingWay.Names.Contains(wanted))
            throw new Problem(ProblemCode.BadCommandLine, $"{Setting} is \"{wanted}\"", $"expected one of {string.Join(", ", RaisingWay.Names)}").ToException();
        return new Raising(layout, missing, wanted ?? "", RaisingWay.Find(wanted, Environment.GetEnvironmentVariable("PATH") ?? ""), root);
    }

    /// <summary>Ends the command where the rights cannot be raised.</summary>
    /// <param name="canAsk">Whether there is a terminal on which the person can show that they may.</param>
    /// <param name="added">Options that the command needs where there is none.</param>
    /// <exception cref="ProblemException">They cannot.</exception>
    public void RequirePossible(bool canAsk, IEnumerable<string> added)
    {
        if (_way is not null && canAsk) return;
        var why = _way is not null ? $"there is no terminal on which {_way.Name} could ask for a password"
            : _wanted == RaisingWay.None ? $"{Setting} says that rights are not raised"
            : _wanted.Length > 0 ? $"{_wanted}, which {Setting} names, is not on PATH"
            : $"none of {string.Join(", ", RaisingWay.Names.SkipLast(1))} is on PATH";
        var typed = string.Join(' ', Command(added).Select(Quoted));
        var remedy = _way is null ? $"as root: {typed}" : $"{_way.Name} {typed}";
        throw (_missing with { Why = $"{why}; nothing has been changed", Remedy = remedy }).ToException();
    }

    /// <summary>Runs the command with all rights, on this terminal, and waits for it.</summary>
    /// <param name="output">Where to say so.</param>
    /// <param name="added">Options that are added to it.</param>
    /// <returns>With what it ended.</returns>
    /// <exception cref="ProblemException">It was not allowed.</exception>
    public int Run(Output output, IEnumerable<string> added)
    {
        var way = _way ?? throw new InvalidOperationException("there is no way to raise rights");
        var before = LockTaken();
        output.Flush();
        try
        {
            using var process = Process.Start(new ProcessStartInfo(way.Program, way.Arguments(Environment.CurrentDirectory, Kept(), Command(added))) { UseShellExecute = false })!;
            process.WaitForExit();
            if (!way.EndsWithUnlessAllowed.Contains(process.ExitCode) || LockTaken() != before) return process.ExitCode;
            throw (_missing with { What = $"{way.Name} has not let acrate run with more rights", Why = $"it ended with {process.ExitCode}; nothing has been changed", Remedy = "ask who keeps this machine, or leave --everyone out" }).ToException();
        }
        catch (Win32Exception fault)
        {
            throw new Problem(ProblemCode.NoRights, $"{way.Program} cannot be run", fault.Message, $"{Setting} names another way: {string.Join(", ", RaisingWay.Names)}").ToException(fault);
        }
    }

    /// <summary>When somebody last took the lock: a run that was let begin has.</summary>
    private DateTime LockTaken() => File.GetLastWriteTimeUtc(_layout.LockFile);

    /// <summary>This command as it must be typed, with more options. They come before what is only arguments.</summary>
    private List<string> Command(IEnumerable<string> added)
    {
        var given = Environment.GetCommandLineArgs().Skip(1).ToList();
        var end = given.IndexOf("--");
        if (_root is not null && Environment.GetEnvironmentVariable("ACRATE_ROOT") is { Length: > 0 } && !given.Exists(word => word.Split('=')[0] == "--root")) added = added.Concat(["--root", _root]);
        given.InsertRange(end < 0 ? given.Count : end, added.Where(option => option != "--yes" || !given.Exists(word => word is "--yes" or "-y")));
        return [.. Self(), .. given];
    }

    private static IEnumerable<string> Self()
    {
        var program = Environment.ProcessPath ?? "acrate";
        return Path.GetFileNameWithoutExtension(program) == "dotnet" ? [program, Path.Combine(AppContext.BaseDirectory, "acrate.dll")] : [program];
    }

    private static List<string> Kept() => [.. Environment.GetEnvironmentVariables().Keys.Cast<string>()
        .Where(name => Proxies.Contains(name) || (name.StartsWith("ACRATE_", StringComparison.Ordinal) && !NotPassedOn.Contains(name)))
        .Order(StringComparer.Ordinal)];

    /// <summary>A word as a shell reads it.</summary>
    private static string Quoted(string word) =>
        word.Length > 0 && word.All(letter => char.IsAsciiLetterOrDigit(letter) || "@%+=:,./-_".Contains(letter, StringComparison.Ordinal)) ? word : $"'{word.Replace("'", "'\\''", StringComparison.Ordinal)}'";
}
