using System.Buffers;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Archives;

/// <summary>Unpacks an artifact into a hidden folder, of which nothing is accepted before the artifact is verified. Every entry stays inside it, and what has no business in an app is refused.</summary>
public static class Unpacker
{
    private const long WorthAnotherThread = 1 << 20;
    private const UnixFileMode Everything = (UnixFileMode)0x1FF;
    private const UnixFileMode OwnerCanChange = UnixFileMode.UserRead | UnixFileMode.UserWrite;
    private const UnixFileMode ProgramMode = Everything & ~(UnixFileMode.GroupWrite | UnixFileMode.OtherWrite);
    private const UnixFileMode PlainMode = OwnerCanChange | UnixFileMode.GroupRead | UnixFileMode.OtherRead;
    private const UnixFileMode Writable = UnixFileMode.GroupWrite | UnixFileMode.OtherWrite;

    /// <summary>Unpacks a file.</summary>
    /// <param name="file">The file.</param>
    /// <param name="artifact">Says how it is packed.</param>
    /// <param name="folder">An empty folder. Where unpacking fails it is left half filled, for the caller to remove.</param>
    /// <param name="cancel">Stops between two blocks.</param>
    /// <exception cref="ProblemException">The archive is damaged, or holds an entry that is not accepted.</exception>
    public static void Unpack(PresentFile file, Artifact artifact, string folder, CancellationToken cancel)
    {
        var budget = new UnpackingBudget(artifact);
        using var stream = new FileStream(file.Path, FileMode.Open, FileAccess.Read, FileShare.Read, 1 << 17);
        try
        {
            switch (artifact.Form)
            {
                case ArtifactForm.Executable:
                    WriteFile(stream, Path.Combine(folder, artifact.ShelfFileName), ProgramMode, null, budget, cancel);
                    break;
                case ArtifactForm.Installer:
                    // It fills the folder itself when it is run, once it is known to be the file that the catalogue means.
                    break;
                case ArtifactForm.File:
                    WriteFile(stream, Path.Combine(folder, artifact.ShelfFileName), PlainMode, null, budget, cancel);
                    break;
                case ArtifactForm.AppImage:
                    AppImage.Require(stream);
                    WriteFile(stream, Path.Combine(folder, artifact.ShelfFileName), ProgramMode, null, budget, cancel);
                    WriteFile(AppImage.Launcher(artifact.ShelfFileName), Path.Combine(folder, Artifact.LauncherName), ProgramMode, null, budget, cancel);
                    break;
                case ArtifactForm.Zip:
                    UnpackEntries(ZipEntries.Read(stream), new ArchiveEntryRules(artifact.StripFolders), RefuseSpecial, folder, budget, cancel);
                    break;
                case ArtifactForm.SevenZip:
                    UnpackEntries(SevenZipEntries.Read(stream), new ArchiveEntryRules(artifact.StripFolders), RefuseSpecial, folder, budget, cancel);
                    break;
                case ArtifactForm.Deb:
                    var (form, data) = DebianPackage.Open(stream);
                    using (var tar = Ahead(form is { } compressed ? Decompression.Open(compressed, data) : data, file))
                        UnpackEntries(TarEntries.Read(tar), new ArchiveEntryRules(artifact.StripFolders, isWholeSystem: true), RefuseDevices, folder, budget, cancel);
                    break;
                default:
                    using (var tar = Ahead(Decompression.Open(artifact.Form, stream), file))
                        UnpackEntries(TarEntries.Read(tar), new ArchiveEntryRules(artifact.StripFolders), RefuseSpecial, folder, budget, cancel);
                    break;
            }
        }
        catch (FormatException refused)
        {
            throw new Problem(ProblemCode.NotVerified, "the archive is not accepted", $"it holds {refused.Message}", "do not use the file, and tell the catalogue's keeper").ToException(refused);
        }
        catch (Exception damaged) when (damaged is InvalidDataException or EndOfStreamException or ZstdSharp.ZstdException
            or SharpCompress.Common.SharpCompressException or NotSupportedException or ArgumentException or IndexOutOfRangeException or OverflowException)
        {
            if (FileSignature.OtherThan(artifact.Form, file.Path) is { } other)
                throw new Problem(ProblemCode.NotVerified, $"the archive is not {Article(CardWords.Forms.WordOf(artifact.Form))}", $"it begins like {other}", "tell the catalogue's keeper: the card names the wrong form").ToException(damaged);
            throw new Problem(ProblemCode.NotVerified, "the archive is damaged", damaged.Message, "tell the catalogue's keeper: the file is what the catalogue says, but cannot be unpacked").ToException(damaged);
        }
    }

    private static string Article(string form) => form is "appimage" or "executable" ? $"an {form}" : $"a {form}";

    /// <summary>A small archive is unpacked before another thread has begun.</summary>
    private static Stream Ahead(Stream tar, PresentFile file) => new FileInfo(file.Path).Length > WorthAnotherThread ? new ReadAheadStream(tar) : tar;

    private static void UnpackEntries(IEnumerable<ArchiveEntry> entries, ArchiveEntryRules rules, Action<ArchiveEntry> refuse, string folder, UnpackingBudget budget, CancellationToken cancel)
    {
        var folderModes = new List<(string Path, UnixFileMode Mode)>();
        var any = false;
        foreach (var entry in entries)
        {
            cancel.ThrowIfCancellationRequested();
            refuse(entry);
            budget.AddEntry();
            if (rules.Place(entry.Name) is not { } place) continue;
            any = true;
            var path = Path.Combine(folder, place.Text);
            Directory.CreateDirectory(Path.GetDirectoryName(path)!);
            switch (entry.Kind)
            {
                case ArchiveEntryKind.Folder:
                    rules.AddFolder(place);
                    Directory.CreateDirectory(path);
                    folderModes.Add((path, Tame(entry.Mode) | OwnerCanChange | UnixFileMode.UserExecute));
                    break;
                case ArchiveEntryKind.SymbolicLink:
                    var target = rules.AddLink(place, entry.LinkTarget ?? "");
                    RefuseFolderInTheWay(path, place);
                    File.CreateSymbolicLink(path, target);
                    break;
                case ArchiveEntryKind.HardLink:
                    var existing = rules.PlaceHardLinkTarget(place, entry.LinkTarget ?? "");
                    rules.AddFile(place);
                    RefuseFolderInTheWay(path, place);
                    Posix.Link(Path.Combine(folder, existing.Text), path);
                    break;
                default:
                    rules.AddFile(place);
                    RefuseFolderInTheWay(path, place);
                    WriteFile(entry.Content ?? Stream.Null, path, Tame(entry.Mode) | OwnerCanChange, entry.Modified, budget, cancel);
                    break;
            }
        }

        if (!any) throw new InvalidDataException("nothing is in it, or nothing is left of it after leaving out leading folders");
        foreach (var (path, mode) in folderModes) File.SetUnixFileMode(path, mode);
    }

    private static void RefuseDevices(ArchiveEntry entry)
    {
        if (entry.Kind == ArchiveEntryKind.Special) throw new FormatException($"a device or another special entry, \"{entry.Name}\"");
    }

    private static void RefuseSpecial(ArchiveEntry entry)
    {
        RefuseDevices(entry);
        if (entry.Kind == ArchiveEntryKind.File && (entry.Mode & (UnixFileMode.SetUser | UnixFileMode.SetGroup)) != 0)
            throw new FormatException($"a file that would run with another user's rights (setuid or setgid), \"{entry.Name}\"");
    }

    private static void RefuseFolderInTheWay(string path, InsidePath place)
    {
        if (Directory.Exists(path)) throw new FormatException($"a file where a folder is, \"{place}\"");
    }

    /// <summary>Permissions without the special bits, and without writing for others than the owner.</summary>
    private static UnixFileMode Tame(UnixFileMode mode) => mode & Everything & ~Writable;

    private static void WriteFile(Stream content, string path, UnixFileMode mode, DateTimeOffset? modified, UnpackingBudget budget, CancellationToken cancel)
    {
        using (var file = new FileStream(path, new FileStreamOptions { Mode = FileMode.CreateNew, Access = FileAccess.Write, BufferSize = 0, UnixCreateMode = mode }))
        {
            var buffer = ArrayPool<byte>.Shared.Rent(1 << 17);
            try
            {
                for (int read; (read = content.Read(buffer)) > 0;)
                {
                    cancel.ThrowIfCancellationRequested();
                    budget.AddBytes(read);
                    file.Write(buffer, 0, read);
                }
            }
            finally
            {
                ArrayPool<byte>.Shared.Return(buffer);
            }

            File.SetUnixFileMode(file.SafeFileHandle, mode);
        }

        if (modified is { } time) File.SetLastWriteTimeUtc(path, time.UtcDateTime);
    }
}
