using System.Text;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Archives;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Observing;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Placing;

/// <summary>Where installed versions live: complete or not there at all, and never changed once they are.</summary>
public sealed class Shelf(MachineLayout layout)
{
    private const string IncomingPrefix = ".incoming-", NoteEnding = ".installed.json", FilesEnding = ".files";
    private const UnixFileMode OwnerOnly = UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute;
    private const UnixFileMode Open = OwnerOnly | UnixFileMode.GroupRead | UnixFileMode.GroupExecute | UnixFileMode.OtherRead
        | UnixFileMode.OtherExecute;

    /// <summary>The folder of one installed version.</summary>
    public string FolderOf(InstalledApp app) => Path.Combine(layout.ShelfOf(app.Id), app.ShelfName);

    /// <summary>Whether a version is on the shelf; it was complete when it came there.</summary>
    public bool IsThere(InstalledApp app) => Directory.Exists(FolderOf(app));

    /// <summary>Makes an empty hidden folder beside the place where a version will be.</summary>
    public string MakeIncoming(InstalledApp app)
    {
        var folder = Path.Combine(layout.ShelfOf(app.Id), IncomingPrefix + app.ShelfName);
        DeepFolder.Delete(folder);
        AtomicFile.MakeFolder(layout.ShelfOf(app.Id));
        Directory.CreateDirectory(folder, OwnerOnly);
        return folder;
    }

    /// <summary>Turns a filled hidden folder into the version's own, replacing a leftover of the same version. All of it is on
    /// the disk first.</summary>
    /// <param name="app">The app as it will be.</param>
    /// <param name="incoming">The hidden folder.</param>
    /// <param name="proof">The artifacts that were unpacked, verified, in their order.</param>
    /// <param name="manifest">What is in the hidden folder.</param>
    /// <param name="before">The version before it, whose room it may share; null for none.</param>
    /// <returns>The app, with the room that it shares.</returns>
    public InstalledApp Accept(
        InstalledApp app, string incoming, IReadOnlyList<VerifiedFile> proof, ShelfManifest manifest, InstalledApp? before)
    {
        if (Delivery.Combine([.. proof.Select(file => file.Sha256)]) != app.Sha256)
            throw new InvalidOperationException("the artifacts belong to another app");
        var folder = FolderOf(app);
        if (layout.Scope == InstallScope.AllUsers || Posix.EffectiveUser() == 0) LetEveryoneRead(incoming);
        else File.SetUnixFileMode(incoming, Open);
        if (before is not null && before.ShelfName != app.ShelfName && !app.UpdatesItself && !before.UpdatesItself
            && ManifestOf(before) is { } old)
            manifest = manifest with { Shared = ShelfSharing.Share(incoming, manifest, FolderOf(before), old) };
        app = app with { Shared = manifest.Shared };
        AtomicFile.Write(
            FilesPath(app.Id, app.ShelfName), Encoding.UTF8.GetBytes(manifest.Write()), FolderFiller.PlainMode, isFlushed: false);
        Note(app, isFlushed: false);
        Posix.FlushFileSystem(incoming);
        CrashPoints.Pass();
        if (Directory.Exists(folder) && Posix.Exchange(incoming, folder)) DeepFolder.Delete(incoming);
        else
        {
            DeepFolder.Delete(folder);
            CrashPoints.Pass();
            Posix.Rename(incoming, folder);
        }

        CrashPoints.Pass();
        Posix.FlushFolder(layout.ShelfOf(app.Id));
        return app;
    }

    /// <summary>
    /// Writes beside a version what its record will say, for the day on which the records are older than the disk.
    /// </summary>
    /// <param name="app">The app as it will be.</param>
    /// <param name="isFlushed">Whether the note is on the disk afterwards; otherwise the caller sees to that.</param>
    public void Note(InstalledApp app, bool isFlushed = true) => AtomicFile.Write(
        NotePath(app.Id, app.ShelfName), Encoding.UTF8.GetBytes(InstalledAppJson.Write(app)), FolderFiller.PlainMode, isFlushed);

    /// <summary>Reads what was noted beside a version; null where nothing was, or it cannot be read.</summary>
    /// <param name="id">The app.</param>
    /// <param name="shelfName">The name of the version's folder.</param>
    public InstalledApp? NoteOf(AppId id, string shelfName)
    {
        try
        {
            var app = InstalledAppJson.Read(File.ReadAllText(NotePath(id, shelfName)));
            return app.Id == id && app.ShelfName == shelfName && Directory.Exists(FolderOf(app)) ? app : null;
        }
        catch (Exception fault) when (fault is MalformedException or IOException or UnauthorizedAccessException)
        {
            return null;
        }
    }

    /// <summary>The notes of all versions of an app that are on the shelf.</summary>
    public IEnumerable<InstalledApp> NotesOf(AppId id)
    {
        var shelf = layout.ShelfOf(id);
        return !Directory.Exists(shelf) ? [] : Posix.NamesIn(shelf)
            .Where(name => name.EndsWith(NoteEnding, StringComparison.Ordinal))
            .Select(name => NoteOf(id, name[..^NoteEnding.Length])).OfType<InstalledApp>();
    }

    /// <summary>Whether a version is on the shelf with all its files.</summary>
    public bool IsWhole(InstalledApp app) =>
        IsThere(app) && ManifestOf(app)?.FaultsIn(FolderOf(app), isDeep: false, default).Any() != true;

    /// <summary>The half-filled folders of an app.</summary>
    /// <param name="folder">The folder of its versions.</param>
    public static IEnumerable<string> HalvesIn(string folder) => Directory.EnumerateDirectories(folder, IncomingPrefix + "*");

    /// <summary>Removes what an app's unpacking left behind; the versions themselves stay.</summary>
    public void DropIncoming(AppId id)
    {
        var shelf = layout.ShelfOf(id);
        if (!Directory.Exists(shelf)) return;
        foreach (var folder in Directory.EnumerateDirectories(shelf, IncomingPrefix + "*")) DeepFolder.TryDelete(folder);
        RemoveIfEmpty(shelf);
    }

    /// <summary>
    /// Removes what cut-off runs left behind: half-filled folders, and versions of apps that are neither installed, nor in front,
    /// nor still open. Only for the one who holds the lock.
    /// </summary>
    /// <param name="isInstalled">Says whether an app is on record.</param>
    /// <param name="looksInside">Whether half-filled folders of installed apps are looked for too.</param>
    public void DropLeftovers(Func<AppId, bool> isInstalled, bool looksInside)
    {
        if (!Directory.Exists(layout.ShelfFolder)) return;
        foreach (var shelf in Directory.EnumerateDirectories(layout.ShelfFolder))
        {
            if (!AppId.TryParse(Path.GetFileName(shelf), out var id)) continue;
            if (isInstalled(id) || IsInFront(id))
            {
                if (looksInside) DropIncoming(id);
            }
            else if (RunningApps.In(shelf).Count == 0)
            {
                DeepFolder.TryDelete(shelf);
                CrashPoints.Pass();
            }
        }
    }

    /// <summary>Removes one version.</summary>
    public void Drop(InstalledApp app) => DropVersion(app.Id, app.ShelfName);

    /// <summary>Removes one version. It is hidden first, so that a half of it is never taken for the whole.</summary>
    /// <param name="id">The app.</param>
    /// <param name="shelfName">The name of the version's folder.</param>
    public void DropVersion(AppId id, string shelfName)
    {
        var shelf = layout.ShelfOf(id);
        if (!Directory.Exists(shelf)) return;
        var (folder, hidden) = (Path.Combine(shelf, shelfName), Path.Combine(shelf, IncomingPrefix + shelfName));
        DeepFolder.TryDelete(hidden);
        if (Directory.Exists(folder) && !Directory.Exists(hidden)) Posix.Rename(folder, hidden);
        File.Delete(NotePath(id, shelfName));
        File.Delete(FilesPath(id, shelfName));
        CrashPoints.Pass();
        DeepFolder.TryDelete(hidden);
        RemoveIfEmpty(shelf);
    }

    /// <summary>Removes all versions of an app.</summary>
    public void DropAll(AppId id)
    {
        DeepFolder.Delete(layout.ShelfOf(id));
        CrashPoints.Pass();
    }

    /// <summary>Makes a version the live one, by renaming a new link over the old.</summary>
    public void PutInFront(InstalledApp app) =>
        AtomicFile.Link(layout.FrontOf(app.Id), Path.GetRelativePath(layout.FrontFolder, FolderOf(app)));

    /// <summary>
    /// The apps that are in front, ordered by id: those on record, unless the record was lost or is older than what is on the
    /// disk.
    /// </summary>
    /// <param name="known">The ids of apps that are of no interest.</param>
    public IReadOnlyList<string> InFront(IReadOnlySet<string> known) => Directory.Exists(layout.FrontFolder)
        ? [.. Posix.NamesIn(layout.FrontFolder)
            .Where(name => !known.Contains(name) && AppId.TryParse(name, out var id) && IsInFront(id))
            .Order(StringComparer.Ordinal)]
        : [];

    /// <summary>Whether an app has a live version.</summary>
    public bool IsInFront(AppId id) => Posix.LinkAt(layout.FrontOf(id)) is not null && Posix.IsReachable(layout.FrontOf(id));

    /// <summary>The name of the folder of an app's live version; null where there is none.</summary>
    public string? LiveName(AppId id) =>
        Posix.LinkAt(layout.FrontOf(id)) is { } target ? Path.GetFileName(target) : null;

    /// <summary>Takes an app's front link away.</summary>
    public void TakeFromFront(AppId id)
    {
        if (Directory.Exists(layout.FrontFolder)) AtomicFile.Remove([layout.FrontOf(id)]);
    }

    /// <summary>
    /// What is on for all users can be used by everyone and changed by its owner only, whatever its archive or installer says.
    /// </summary>
    private static void LetEveryoneRead(string folder)
    {
        const UnixFileMode read = UnixFileMode.UserRead | UnixFileMode.GroupRead | UnixFileMode.OtherRead;
        const UnixFileMode execute = UnixFileMode.UserExecute | UnixFileMode.GroupExecute | UnixFileMode.OtherExecute;
        Set(new DirectoryInfo(folder));
        foreach (var found in FolderTree.In(folder).Where(found => found.LinkTarget is null)) Set(found);

        static void Set(FileSystemInfo found)
        {
            var runs = found is DirectoryInfo || (found.UnixFileMode & UnixFileMode.UserExecute) != 0;
            var wanted = read | UnixFileMode.UserWrite | (runs ? execute : UnixFileMode.None);
            if (found.UnixFileMode != wanted) found.UnixFileMode = wanted;
        }
    }

    /// <summary>What a version consists of; null where that was not noted.</summary>
    public ShelfManifest? ManifestOf(InstalledApp app) => ShelfManifest.Read(FilesPath(app.Id, app.ShelfName));

    private string FilesPath(AppId id, string shelfName) => Path.Combine(layout.ShelfOf(id), shelfName + FilesEnding);

    private string NotePath(AppId id, string shelfName) => Path.Combine(layout.ShelfOf(id), shelfName + NoteEnding);

    private static void RemoveIfEmpty(string folder)
    {
        if (Directory.Exists(folder) && !Directory.EnumerateFileSystemEntries(folder).Any()) Directory.Delete(folder);
    }

}
