using System.Buffers;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Values;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Archives;

/// <summary>Fills a folder from entries. Every entry stays inside it, and what has no business in an app is refused.</summary>
/// <param name="folder">An empty folder.</param>
/// <param name="cancel">Stops between two blocks.</param>
internal sealed class FolderFiller(string folder, CancellationToken cancel)
{
    /// <summary>The permissions of a program.</summary>
    public const UnixFileMode ProgramMode = Everything & ~OthersWrite;

    /// <summary>The permissions of any other file.</summary>
    public const UnixFileMode PlainMode = OwnerCanChange | UnixFileMode.GroupRead | UnixFileMode.OtherRead;

    private const int BufferSize = 1 << 17, WorthBeginning = 1 << 16;
    private const UnixFileMode Everything = (UnixFileMode)0x1FF;
    private const UnixFileMode OwnerCanChange = UnixFileMode.UserRead | UnixFileMode.UserWrite;
    private const UnixFileMode OthersWrite = UnixFileMode.GroupWrite | UnixFileMode.OtherWrite;
    private const UnixFileMode OtherUsersRights = UnixFileMode.SetUser | UnixFileMode.SetGroup;

    /// <summary>Links to absolute paths of the system, which lead into the folder for the time being.</summary>
    private readonly List<(string Path, string Target)> _toSystem = [];

    private readonly UnpackedPaths _there = new();
    private UnpackingBudget? _budget;

    /// <summary>Begins with one of the files that fill the folder.</summary>
    /// <param name="budget">How large it may become.</param>
    public void Begin(UnpackingBudget budget) => _budget = budget;

    /// <summary>Decides where the entries of an archive may go.</summary>
    /// <param name="artifact">The archive.</param>
    /// <param name="isWholeSystem">Whether it is made for the root of a system.</param>
    public ArchiveEntryRules RulesFor(Artifact artifact, bool isWholeSystem = false) =>
        new(artifact.StripFolders, isWholeSystem, _there);

    /// <summary>Puts one file into the folder.</summary>
    /// <param name="content">Its bytes.</param>
    /// <param name="name">Its name.</param>
    /// <param name="mode">Its permissions.</param>
    /// <exception cref="RefusedEntryException">Something of that name is there.</exception>
    public void AddFile(Stream content, string name, UnixFileMode mode)
    {
        var (place, path) = (InsidePath.Parse(name), Path.Combine(folder, name));
        new ArchiveEntryRules(0, before: _there).AddFile(place);
        RefuseFolderInTheWay(path, place);
        Write(content, path, mode, null);
    }

    /// <summary>Puts all entries of an archive into the folder.</summary>
    /// <param name="entries">The entries; each content is read before the next entry is requested.</param>
    /// <param name="rules">Decides where they may go.</param>
    /// <param name="takesOtherUsersRights">Whether files that would run with another user's rights are taken, without these
    /// rights; otherwise they are refused.</param>
    /// <exception cref="RefusedEntryException">An entry is not accepted.</exception>
    /// <exception cref="InvalidDataException">There is nothing.</exception>
    public void AddEntries(IEnumerable<ArchiveEntry> entries, ArchiveEntryRules rules, bool takesOtherUsersRights = false)
    {
        var folderModes = new List<(string Path, UnixFileMode Mode)>();
        var any = false;
        foreach (var entry in entries)
        {
            cancel.ThrowIfCancellationRequested();
            RefuseSpecial(entry, takesOtherUsersRights);
            _budget!.AddEntry();
            if (rules.Place(entry.Name) is not { } place) continue;
            any = true;
            var path = Path.Combine(folder, place.Text);
            Directory.CreateDirectory(Path.GetDirectoryName(path)!);
            if (entry.Kind == ArchiveEntryKind.Folder)
                folderModes.Add((path, Tame(entry.Mode) | OwnerCanChange | UnixFileMode.UserExecute));
            Add(entry, rules, place, path);
        }

        if (!any) throw new InvalidDataException("nothing is in it, or nothing is left of it after leaving out leading folders");
        foreach (var (path, mode) in folderModes) File.SetUnixFileMode(path, mode);
    }

    /// <summary>Ends after the last file. Only now it is known which links lead to the system.</summary>
    public void End()
    {
        foreach (var (path, target) in _toSystem) LeadToSystem(path, target);
    }

    private void Add(ArchiveEntry entry, ArchiveEntryRules rules, InsidePath place, string path)
    {
        switch (entry.Kind)
        {
            case ArchiveEntryKind.Folder:
                rules.AddFolder(place);
                Directory.CreateDirectory(path);
                break;
            case ArchiveEntryKind.SymbolicLink:
                var target = rules.AddLink(place, entry.LinkTarget ?? "");
                RefuseFolderInTheWay(path, place);
                File.CreateSymbolicLink(path, target);
                if (entry.LinkTarget!.StartsWith("/usr/", StringComparison.Ordinal)) _toSystem.Add((path, entry.LinkTarget));
                break;
            case ArchiveEntryKind.HardLink:
                var existing = rules.PlaceHardLinkTarget(place, entry.LinkTarget ?? "");

                // The same file again: tar writes a file that has several names so, where it is named twice.
                if (existing.Text == place.Text) break;
                rules.AddFile(place);
                RefuseFolderInTheWay(path, place);
                Posix.Link(Path.Combine(folder, existing.Text), path);
                break;
            default:
                rules.AddFile(place);
                RefuseFolderInTheWay(path, place);
                Write(entry.Content ?? Stream.Null, path, Tame(entry.Mode) | OwnerCanChange, entry.Modified);
                break;
        }
    }

    /// <summary>
    /// A link of a system's package to something of the system leads there, where the package does not have it itself: below
    /// /usr, where only root can write, and which everyone can read.
    /// </summary>
    private static void LeadToSystem(string path, string target)
    {
        if (Posix.IsReachable(path) || target.Split('/').Contains("..") || !Posix.IsReachable(target)) return;
        File.Delete(path);
        File.CreateSymbolicLink(path, target);
    }

    private static void RefuseSpecial(ArchiveEntry entry, bool takesOtherUsersRights)
    {
        if (entry.Kind == ArchiveEntryKind.Special)
            throw new RefusedEntryException($"a device or another special entry, \"{entry.Name}\"");
        if (!takesOtherUsersRights && entry.Kind == ArchiveEntryKind.File && (entry.Mode & OtherUsersRights) != 0)
            throw new RefusedEntryException(
                $"a file that would run with another user's rights (setuid or setgid), \"{entry.Name}\"");
    }

    private static void RefuseFolderInTheWay(string path, InsidePath place)
    {
        if (Directory.Exists(path)) throw new RefusedEntryException($"a file where a folder is, \"{place}\"");
    }

    /// <summary>Permissions without the special bits, and without writing for others than the owner.</summary>
    private static UnixFileMode Tame(UnixFileMode mode) => mode & Everything & ~OthersWrite;

    private void Write(Stream content, string path, UnixFileMode mode, DateTimeOffset? modified)
    {
        using (var file = new FileStream(path, new FileStreamOptions
        {
            Mode = FileMode.CreateNew, Access = FileAccess.Write, BufferSize = 0, UnixCreateMode = mode,
        }))
        {
            Copy(content, file);
            File.SetUnixFileMode(file.SafeFileHandle, mode);
            if (file.Position >= WorthBeginning) Posix.BeginFlush(file.SafeFileHandle);
        }

        if (modified is { } time) File.SetLastWriteTimeUtc(path, time.UtcDateTime);
    }

    private void Copy(Stream content, FileStream file)
    {
        var buffer = ArrayPool<byte>.Shared.Rent(BufferSize);
        try
        {
            for (int read; (read = content.Read(buffer)) > 0;)
            {
                cancel.ThrowIfCancellationRequested();
                _budget!.AddBytes(read);
                file.Write(buffer, 0, read);
            }
        }
        finally
        {
            ArrayPool<byte>.Shared.Return(buffer);
        }
    }
}
