using System.ComponentModel;
using System.Diagnostics;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Layout;

namespace AmberCrate.Engine.Rights;

/// <summary>
/// Runs the same command again with all rights, where all users' apps are to be changed and this process may not.
/// </summary>
public sealed class ElevatedRun
{
    private const string RootVariable = "ACRATE_ROOT", OwnVariables = "ACRATE_";

    /// <summary>Variables that decide how the program works; the others are for the system's own rules to pass on.</summary>
    private static readonly string[] PassedOn =
        ["http_proxy", "https_proxy", "all_proxy", "no_proxy", "HTTP_PROXY", "HTTPS_PROXY", "ALL_PROXY", "NO_PROXY", "NO_COLOR"];

    /// <summary>What belongs to this user's own folders, or is passed on by options.</summary>
    private static readonly string[] NotPassedOn = [SettingKey.Raise.Variable, RootVariable, SettingKey.CacheFolder.Variable];

    private readonly MachineLayout _layout;
    private readonly Problem _missing;
    private readonly string? _wanted;
    private readonly RaisingWay? _way;
    private readonly string? _root;
    private readonly HostEnvironment _host;

    private ElevatedRun(
        MachineLayout layout, Problem missing, string? wanted, RaisingWay? way, string? root, HostEnvironment host) =>
        (_layout, _missing, _wanted, _way, _root, _host) = (layout, missing, wanted, way, root, host);

    /// <summary>The word for the way; null where there is none.</summary>
    public string? By => _way?.Name;

    /// <summary>What cannot be done without more rights.</summary>
    public string Lack => _missing.What;

    /// <summary>Finds out whether more rights are needed.</summary>
    /// <param name="layout">All users' layout.</param>
    /// <param name="root">The folder that counts as /; null for / itself.</param>
    /// <param name="wanted">The word for the way that was set; null for the first that is there.</param>
    /// <param name="host">What is around the program.</param>
    /// <returns>Null where this process may do everything, or where no user could do more.</returns>
    public static ElevatedRun? FindWay(MachineLayout layout, string? root, string? wanted, HostEnvironment host)
    {
        if (!FolderRights.CanBeRaised || FolderRights.Missing(layout) is not { Code: ProblemCode.NoRights } missing) return null;
        return new ElevatedRun(layout, missing, wanted, RaisingWay.Find(wanted, ProgramSearch.Trusted), root, host);
    }

    /// <summary>Ends the command where the rights cannot be raised.</summary>
    /// <param name="added">Options that the command needs where there is no terminal on which the user can show that they
    /// may.</param>
    /// <exception cref="ProblemException">They cannot.</exception>
    public void RequirePossible(IEnumerable<string> added)
    {
        if (_way is not null && _host.HasTerminal) return;
        var why = _way is not null ? $"there is no terminal on which {_way.Name} could ask for a password"
            : _wanted == RaisingWay.None ? $"{SettingKey.Raise.Variable} says that rights are not raised"
            : _wanted is not null ? $"{_wanted}, which {SettingKey.Raise.Variable} names, is not on this machine"
            : $"none of {string.Join(", ", RaisingWay.Names.SkipLast(1))} is on this machine";
        var typed = string.Join(' ', Command(added).Select(ShellWord.Quote));
        throw (_missing with
        {
            Why = $"{why}; nothing has been changed",
            Remedy = _way is null ? $"as root: {typed}" : $"{_way.Name} {typed}",
        }).ToException();
    }

    /// <summary>Runs the command with all rights, on this terminal, and waits for it.</summary>
    /// <param name="added">Options that are added to it.</param>
    /// <exception cref="ElevatedRunEndedException">It has ended.</exception>
    /// <exception cref="ProblemException">It was not allowed.</exception>
    public void Run(IEnumerable<string> added)
    {
        var way = _way ?? throw new InvalidOperationException("there is no way to raise rights");
        var before = LockTaken();
        int ended;
        try
        {
            using var process = Process.Start(new ProcessStartInfo(
                way.Program, way.Arguments(_host.Folder, Kept(), Command(added)))
            { UseShellExecute = false })!;
            process.WaitForExit();
            ended = process.ExitCode;
        }
        catch (Win32Exception fault)
        {
            throw new Problem(
                ProblemCode.NoRights, $"{way.Program} cannot be run", fault.Message,
                $"{SettingKey.Raise.Variable} can name another program: {string.Join(", ", RaisingWay.Names)}").ToException(
                    fault);
        }

        if (!way.EndsWithUnlessAllowed.Contains(ended) || LockTaken() != before) throw new ElevatedRunEndedException(ended);
        throw (_missing with
        {
            What = $"{way.Name} has not let acrate run with more rights",
            Why = $"it ended with {ended}; nothing has been changed",
            Remedy = $"ask who keeps this machine, or leave {CallOptions.AllUsersOption} out",
        }).ToException();
    }

    /// <summary>When someone last took the lock: a run that was let begin has.</summary>
    private DateTime LockTaken() => File.GetLastWriteTimeUtc(_layout.LockFile);

    /// <summary>This command as it must be typed, with more options. They come before what is only arguments.</summary>
    private List<string> Command(IEnumerable<string> added)
    {
        var (program, given) = (_host.Program, _host.Arguments.ToList());
        var end = given.IndexOf("--");
        var isRootNamed = given.Exists(word => word.Split('=')[0] == CallOptions.RootOption);
        if (_root is not null && !isRootNamed) added = added.Concat([CallOptions.RootOption, _root]);
        given.InsertRange(
            end < 0 ? given.Count : end,
            added.Where(option => option != "--yes" || !given.Exists(word => word is "--yes" or "-y")));
        return [.. program, .. given];
    }

    /// <summary>
    /// Whether a name is one name only: sudo takes a list with commas, and another variable could hide behind one.
    /// </summary>
    private static bool IsPlain(string name) =>
        name.All(letter => char.IsAsciiLetterUpper(letter) || char.IsAsciiDigit(letter) || letter == '_');

    private List<string> Kept() => [.. _host.VariableNames
        .Where(name => PassedOn.Contains(name)
            || (name.StartsWith(OwnVariables, StringComparison.Ordinal) && !NotPassedOn.Contains(name) && IsPlain(name)))
        .Order(StringComparer.Ordinal)];
}
