using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Rights;

namespace AmberCrate.Engine.Sessions;

/// <summary>
/// One call of the program: what is around it, what was set, where everything lies, and who watches and answers. Opened once, and
/// handed to the operation. Everything that decides what an operation does comes in here or in its request, so that tests set
/// it.
/// </summary>
public sealed class Session
{
    /// <summary>Opens a session.</summary>
    /// <param name="host">What is around the program.</param>
    /// <param name="request">How it was called.</param>
    /// <param name="watch">Receives the events.</param>
    /// <param name="confirm">Asks the user.</param>
    /// <exception cref="ProblemException">A setting cannot be used.</exception>
    public Session(HostEnvironment host, CallRequest request, Action<OperationEvent> watch, IConfirm confirm)
    {
        var root = request.Root is { Length: > 0 } set ? host.FullPath(set) : null;
        if (root is null && host.Variable("HOME") is { Length: > 0 } home && (!home.StartsWith('/') || home.Contains('\ufffd')))
            throw new Problem(
                ProblemCode.BadCommandLine, "the variable HOME is not the path of a folder", $"it is \"{home}\"",
                "set HOME to an absolute path in UTF-8, or use --root").ToException();
        var isAllUsers = request.Scope == InstallScope.AllUsers;
        var own = root is null ? MachineLayout.OfUser(host.Variable) : MachineLayout.Under(root);
        var all = MachineLayout.OfAllUsers(root ?? "/");
        SettingsFiles =
            isAllUsers ? [all.SettingsFile] : root is null ? [own.SettingsFile, all.SettingsFile] : [own.SettingsFile];
        Settings = new SettingsReader(request.Option, host.Variable, SettingsFiles).Read();
        foreach (var file in SettingsFiles) host.Trace($"settings: {file}{(File.Exists(file) ? "" : " (not there)")}");
        own = own with
        {
            DownloadsFolder = Settings.CacheFolder is { } folder
            ? host.FullPath(folder)
            : MachineLayout.OfUser(host.Variable).DownloadsFolder
        };
        (Layout, OtherLayout) = isAllUsers ? (all, own) : (own, all);
        Host = isAllUsers && root is not null ? host with { SystemRoot = root } : host;
        Call = new CallOptions(request.IsRootGiven ? root : null, isAllUsers);
        (Request, Watch, Confirm, Root) = (request, watch, confirm, root);
        Raising = isAllUsers ? ElevatedRun.FindWay(all, root, Settings.Raise, host) : null;
    }

    /// <summary>The options that every suggested command must carry.</summary>
    public CallOptions Call { get; }

    /// <summary>What the user has set.</summary>
    public Settings Settings { get; }

    /// <summary>
    /// The configuration files, the most important first. What users have set for themselves decides nothing about all
    /// users' apps.
    /// </summary>
    public IReadOnlyList<string> SettingsFiles { get; }

    /// <summary>Where everything lies.</summary>
    public MachineLayout Layout { get; }

    /// <summary>Where the other scope lies.</summary>
    public MachineLayout OtherLayout { get; }

    /// <summary>What is around the program; its root is the image where all users' apps of an image are looked at.</summary>
    public HostEnvironment Host { get; }

    /// <summary>How the program was called.</summary>
    public CallRequest Request { get; }

    /// <summary>Receives the events.</summary>
    internal Action<OperationEvent> Watch { get; }

    /// <summary>Asks the user.</summary>
    internal IConfirm Confirm { get; }

    /// <summary>Whether it is about the user's own folders.</summary>
    internal bool IsHome => Root is null;

    /// <summary>The folder under which everything is kept; null for the user's own folders, or the machine's.</summary>
    internal string? Root { get; }

    /// <summary>How to get the rights that changing all users' apps takes; null where they are there, or not needed.</summary>
    internal ElevatedRun? Raising { get; }

    /// <summary>The time now.</summary>
    internal DateTimeOffset Now => Host.Clock.GetUtcNow();

    /// <summary>The day, where the machine is.</summary>
    internal DateOnly Today => DateOnly.FromDateTime(Host.Clock.GetLocalNow().DateTime);

    /// <summary>Does long work, and reports how far it is.</summary>
    /// <param name="work">The work. It is given where to report.</param>
    public async Task<T> ReportAsync<T>(Func<WorkProgress, Task<T>> work)
    {
        try
        {
            return await work((what, done, count) => Watch(new OperationEvent.Working(what, done, count)));
        }
        finally
        {
            Watch(new OperationEvent.WorkEnds());
        }
    }

    /// <summary>Makes a remark.</summary>
    internal void Note(Advice text) => Watch(new OperationEvent.Noticed(text));
}
