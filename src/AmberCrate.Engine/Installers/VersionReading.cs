using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Versions;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Observing;
using AmberCrate.Engine.Placing;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Installers;

/// <summary>Reads the version that an installed app tells itself, where its card says how.</summary>
/// <param name="layout">Where everything lies.</param>
/// <param name="shelf">The shelf.</param>
/// <param name="confinement">How a command of the app is confined; one that cannot be is not started.</param>
public sealed class VersionReading(MachineLayout layout, Shelf shelf, Confinement confinement)
{
    private const int MostBytes = 1 << 16;
    private const string WorkFolders = "version-";
    private const long MostWritten = 16 << 20;
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(5);

    /// <summary>The folders where processes that are gone have asked an app.</summary>
    public static IEnumerable<string> LeftFolders(MachineLayout layout) =>
        Directory.EnumerateDirectories(layout.CacheFolder, WorkFolders + "*")
            .Where(folder => !Directory.Exists($"/proc/{folder[(folder.LastIndexOf('-') + 1)..]}"));

    /// <summary>The versions of apps that are not those on record.</summary>
    /// <param name="apps">The apps.</param>
    /// <param name="say">Receives apps that do not tell theirs, and why.</param>
    /// <param name="cancel">Cancels the operation.</param>
    public IReadOnlyDictionary<Core.Values.AppId, AppVersion> Read(
        IEnumerable<InstalledApp> apps, Action<string> say, CancellationToken cancel)
    {
        var found = new Dictionary<Core.Values.AppId, AppVersion>();
        var guard = new Lock();
        Parallel.ForEach(
            apps.Where(app => app.VersionSource is not null), new ParallelOptions { CancellationToken = cancel }, app =>
            {
                var (version, fault) = Read(app, app.VersionSource!, cancel);
                lock (guard)
                {
                    if (version is not null && version != app.Version) found[app.Id] = version;
                    if (fault is not null) say($"{app.Id} does not report its version: {fault}; the record says {app.Version}");
                }
            });
        return found;
    }

    private (AppVersion? Version, string? Fault) Read(InstalledApp app, VersionSource source, CancellationToken cancel)
    {
        try
        {
            var (text, fault) = source is { File: null, Command: not null } ? Ask(app, source, cancel)
                : (FileOf(app, source), null);
            if (fault is not null) return (null, fault);
            return source.FindIn(text) is { } version ? (version, null) : (null, "there is no version in what it says");
        }
        catch (Exception unreadable) when (IoProblems.IsExpected(unreadable))
        {
            return (null, IoProblems.ToProblem(unreadable, "it cannot be read").Why);
        }
    }

    private string FileOf(InstalledApp app, VersionSource source)
    {
        if (source.File is { } file) return Text(shelf.FolderOf(app), file.Text);
        return DesktopFiles.ValuesIn(layout.PathOf(PlaceKind.DesktopEntry, $"{source.DesktopEntry}.desktop"))
            .GetValueOrDefault(DesktopFiles.VersionKey) ?? "";
    }

    /// <summary>The beginning of a file that the app itself may have written: no link is followed, and nothing but a file
    /// read.</summary>
    private static string Text(string folder, string path)
    {
        using var file = Posix.OpenBeneath(folder, path);
        var bytes = new byte[MostBytes];
        var length = RandomAccess.Read(file, bytes, 0);
        return System.Text.Encoding.UTF8.GetString(bytes, 0, length);
    }

    private (string Text, string? Fault) Ask(InstalledApp app, VersionSource source, CancellationToken cancel)
    {
        if (!confinement.IsConfined) return ("", "its command cannot be confined here, so it is not started");
        if (app.Placed.FirstOrDefault(item => item.Kind == PlaceKind.Command && item.Name == source.Command!.Text)
            is not { Source: { } program }) return ("", $"it has no command {source.Command}");
        var work = Path.Combine(layout.CacheFolder, $"{WorkFolders}{app.Id}-{Environment.ProcessId}");
        var (home, temporary, folder) = (Path.Combine(work, "home"), Path.Combine(work, "tmp"), Path.Combine(work, "here"));
        try
        {
            foreach (var own in new[] { work, home, temporary, folder }) PrivateFolder.Make(own);
            var text = new System.Text.StringBuilder();
            var shelfFolder = shelf.FolderOf(app);
            var ended = confinement.Run(
                new ProgramCall(Path.Combine(shelfFolder, program.Text), source.Arguments),
                new ProgramPlace(folder, folder, home, temporary, work) { Visible = shelfFolder },
                new ProgramLimits(Patience, MostWritten, [work]),
                line =>
                {
                    lock (text)
                    {
                        if (text.Length < MostBytes) text.Append(line).Append('\n');
                    }
                },
                cancel);
            return ended.Refusal is { } refusal ? ("", refusal)
                : ended.ExitCode != 0 ? ("", $"its command ended with {ended.ExitCode}") : (text.ToString(), null);
        }
        finally
        {
            DeepFolder.Delete(work);
        }
    }
}
