using System.Buffers.Binary;
using System.IO.Enumeration;
using System.Text;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Drafting;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Requirements;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Archives;
using AmberCrate.Engine.Decoding;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Observing;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Drafting;

/// <summary>
/// Reads from a vendor's file what a card can say. The file is unpacked into a folder of its own with all the care that
/// it would be installed; nothing of it is started.
/// </summary>
/// <param name="work">A folder for what is unpacked; the caller removes it.</param>
public sealed class PackageReader(string work)
{
    private const int MostFiles = 50_000, MostTexts = 50;
    private const long MostText = 4 << 20, MostScript = 1 << 20;
    private static readonly string[] MetainfoMarks = ["share/metainfo/", "share/appdata/", ".metainfo.xml", ".appdata.xml"];
    private static readonly UTF8Encoding Strict = new(encoderShouldEmitUTF8Identifier: false, throwOnInvalidBytes: true);

    private readonly List<string> _unread = [];

    /// <summary>Reads a file.</summary>
    /// <param name="path">The file.</param>
    /// <param name="name">Its name, which decides its format.</param>
    /// <param name="cancel">Cancels the operation.</param>
    /// <exception cref="ProblemException">It cannot be read, or holds something that is not accepted.</exception>
    public async Task<PackageContents> ReadAsync(string path, string name, CancellationToken cancel)
    {
        if (PackageFormat.IsVolume(name))
            throw new Problem(
                ProblemCode.Refused, $"{name} is one part of a split archive", "a part alone cannot be unpacked",
                "join the parts in their order, or have the archive whole; then draft from that file").ToException();
        var (sha256, size) = await HashAsync(path, cancel);
        var format = PackageFormat.Recognise(path, name);
        var contents = new PackageContents { FileName = name, Format = format, Sha256 = sha256, Size = size };
        return format switch
        {
            ArtifactFormat.AppImage => OfAppImage(contents, path),
            ArtifactFormat.Installer or ArtifactFormat.File => contents with
            {
                Unread = format == ArtifactFormat.Installer
                    ? ["It is a program that installs something. Nothing in it was read."]
                    : name.EndsWith(PackageFormat.JavaEnding, StringComparison.OrdinalIgnoreCase)
                        ? [$"{name} is a Java archive: the card places the file as it is. Which app brings Java to start it?"]
                        : [$"{name} is no archive that is known here: the card places the file as it is."],
            },
            ArtifactFormat.Executable => contents with
            {
                Platform = PlatformOf(path),
                UnpackedSize = size,
                Files = [new PackedFile(name, IsProgram: true)],
                Elves = ElfOf(new FileInfo(path), name) is { } elf ? [elf] : [],
                Scripts = ScriptOf(new FileInfo(path), name) is { } script ? [script] : [],
            },
            ArtifactFormat.Tar or ArtifactFormat.TarGz or ArtifactFormat.TarZst or ArtifactFormat.TarXz or ArtifactFormat.TarBz2
                or ArtifactFormat.ProgramGz or ArtifactFormat.ProgramZst or ArtifactFormat.ProgramXz or ArtifactFormat.ProgramBz2
                or ArtifactFormat.Zip or ArtifactFormat.SevenZip or ArtifactFormat.Deb =>
                    await OfArchiveAsync(contents, path, cancel),
        };
    }

    /// <summary>Looks into archives that have been unpacked into one folder.</summary>
    /// <param name="files">What the card says of the files, and where they are.</param>
    /// <param name="folder">Where they were unpacked.</param>
    internal static PackageContents ReadUnpacked(IReadOnlyList<(Artifact Artifact, string Path)> files, string folder)
    {
        var (first, path) = files[0];
        var contents = new PackageReader(folder).Described(
            new PackageContents
            {
                FileName = first.Location.FileName, Format = first.Format, Sha256 = first.Sha256, Size = first.DownloadSize,
            },
            folder, path);
        return contents with
        {
            Control = DebianDependency.Join([.. files.Where(file => file.Artifact.Format == ArtifactFormat.Deb)
                .Select(file => ControlOf(file.Path)).DefaultIfEmpty(contents.Control)]),
        };
    }

    private async Task<PackageContents> OfArchiveAsync(PackageContents contents, string path, CancellationToken cancel)
    {
        var folder = Path.Combine(work, "files");
        Directory.CreateDirectory(folder);
        var verified = await VerifiedFile.FindAsync(path, contents.Size, contents.Sha256, cancel)
            ?? throw new Problem(ProblemCode.NotVerified, $"{contents.FileName} was changed while it was read").ToException();
        Unpack(PresentFile.FromVerified(verified), ArtifactOf(contents), folder, cancel);
        var strip = 0;
        if (contents.Format != ArtifactFormat.Deb && Directory.EnumerateFileSystemEntries(folder).ToList() is [var only]
            && new DirectoryInfo(only) is { Exists: true, LinkTarget: null } && !IsUsual(Path.GetFileName(only)))
            (folder, strip) = (only, 1);
        return Described(contents with { StripFolders = strip }, folder, path);
    }

    /// <summary>Unpacks a file. The remedies are those for the maintainer, who has the file from its vendor.</summary>
    private static void Unpack(PresentFile file, Artifact artifact, string folder, CancellationToken cancel)
    {
        try
        {
            _ = Unpacker.Unpack(file, artifact, folder, cancel);
        }
        catch (ProblemException fault)
        {
            var remedy = fault.InnerException switch
            {
                RefusedEntryException => "do not use the file, and ask its vendor",
                UnsupportedArchiveException => "use another file of the vendor, or pack this one in another way",
                _ => "download the file again, and compare it with the vendor's checksum",
            };
            throw (fault.Problem with { Remedy = remedy }).ToException(fault);
        }
    }

    /// <summary>Whether a single folder at the top is a part of the app, and not the wrapping.</summary>
    private static bool IsUsual(string name) => name is "usr" or "bin" or "opt" or "share" or "lib";

    private PackageContents Described(PackageContents contents, string folder, string path)
    {
        var files = Files(folder).Take(MostFiles + 1).ToList();
        if (files.Count > MostFiles) _unread.Add($"It has more than {MostFiles} files; the rest was not looked at.");
        var (entries, metainfo) = (new List<(string, string)>(), new List<(string, string)>());
        var (packed, size, newest) = (new List<PackedFile>(), 0L, DateTime.MinValue);
        Platform? platform = null;
        var (elves, scripts) = (new List<PackedElf>(), new List<PackedScript>());
        foreach (var file in files.Take(MostFiles).OrderBy(file => file.FullName, StringComparer.Ordinal))
        {
            var inside = Path.GetRelativePath(folder, file.FullName);
            var isProgram = IsProgram(file);
            packed.Add(new PackedFile(inside, isProgram, PictureSide(file), file.LinkTarget is not null));
            if (file.LinkTarget is not null) continue;
            size += file.Length;
            if (file.LastWriteTimeUtc > newest) newest = file.LastWriteTimeUtc;
            if (isProgram) platform ??= PlatformOf(file.FullName);
            if (ElfOf(file, inside) is { } elf) elves.Add(elf);
            else if (ScriptOf(file, inside) is { } script) scripts.Add(script);
            if (inside.EndsWith(".desktop", StringComparison.Ordinal) && !inside.Contains("autostart", StringComparison.Ordinal))
                ReadFile(file, inside, entries);
            if (IsMetainfo(inside)) ReadFile(file, inside, metainfo);
        }

        var control = contents.Format == ArtifactFormat.Deb ? ControlOf(path) : contents.Control;
        return contents with
        {
            UnpackedSize = contents.UnpackedSize ?? size,
            Files = packed,
            DesktopEntries = entries,
            Metainfo = Sound(metainfo),
            Control = control,
            Copyright = control.GetValueOrDefault("Package") is { } package && SystemPackage.IsName(package)
                ? CopyrightOf(folder, package)
                : null,
            Elves = elves,
            Scripts = scripts,
            Newest = newest > DateTime.UnixEpoch.AddYears(1) ? DateOnly.FromDateTime(newest) : null,
            Platform = contents.Platform ?? platform,
            Unread = [.. contents.Unread, .. _unread],
        };
    }

    /// <summary>The copyright file of a package, after the Debian policy, 12.5; null where it is none that can be read.</summary>
    private static string? CopyrightOf(string folder, string package)
    {
        var file = new FileInfo(Path.Combine(folder, "usr", "share", "doc", package, "copyright"));
        return file is { Exists: true, LinkTarget: null, Directory.LinkTarget: null, Length: < MostText } ?
            Encoding.UTF8.GetString(File.ReadAllBytes(file.FullName)) : null;
    }

    /// <summary>Those metainfo files that can be read; for the others, the reason is recorded.</summary>
    private List<(string Path, string Text)> Sound(List<(string Path, string Text)> files)
    {
        var sound = new List<(string, string)>();
        foreach (var (path, text) in files)
        {
            try
            {
                _ = MetainfoReader.Read(text);
                sound.Add((path, text));
            }
            catch (MalformedException fault)
            {
                _unread.Add($"{path} could not be read: {fault.Message}");
            }
        }

        return sound;
    }

    private PackageContents OfAppImage(PackageContents contents, string path)
    {
        var folder = Path.Combine(work, "image");
        var read = contents with
        {
            Platform = PlatformOf(path),
            UnpackedSize = contents.Size + AppImageFiles.LauncherSize(contents.FileName),
        };
        if (AppImageFiles.Read(path, folder) is { } why)
        {
            if (!Directory.Exists(folder))
                return read with { Unread = [$"The files in the AppImage were not read ({why}): the card knows only its name."] };
            _unread.Add($"Not all files in the AppImage could be read ({why}): look at what it says.");
        }

        var described = Described(read, folder, path);
        return described with { Files = [], Newest = described.Newest };
    }

    private static IReadOnlyDictionary<string, string> ControlOf(string path)
    {
        using var file = File.OpenRead(path);
        return DebianControl.Read(file);
    }

    private static bool IsMetainfo(string path) => path.EndsWith(".xml", StringComparison.Ordinal)
        && MetainfoMarks.Any(mark => path.Contains(mark, StringComparison.Ordinal));

    /// <summary>Takes the text of a file: UTF-8, or Latin-1 where it is none.</summary>
    private void ReadFile(FileInfo file, string inside, List<(string Path, string Text)> texts)
    {
        if (texts.Count >= MostTexts || Posix.TypeOf(file.FullName) != Posix.FileType.Regular) return;
        if (file.Length > MostText)
        {
            _unread.Add($"{inside} is larger than {MostText >> 20} MiB and was not read.");
            return;
        }

        var bytes = File.ReadAllBytes(file.FullName);
        try
        {
            texts.Add((inside, Strict.GetString(bytes)));
        }
        catch (DecoderFallbackException)
        {
            _unread.Add($"{inside} is not UTF-8 and was read as Latin-1: look at its letters.");
            texts.Add((inside, Encoding.Latin1.GetString(bytes)));
        }
    }

    /// <summary>
    /// The files and links in a folder. Links to folders are not followed: they can lead in circles, or out of it.
    /// </summary>
    private static FileSystemEnumerable<FileInfo> Files(string folder) => new(
        folder, (ref FileSystemEntry entry) => new FileInfo(entry.ToFullPath()),
        new EnumerationOptions { RecurseSubdirectories = true, AttributesToSkip = FileAttributes.None })
    {
        ShouldIncludePredicate = (ref FileSystemEntry entry) => !entry.IsDirectory,
        ShouldRecursePredicate = (ref FileSystemEntry entry) => (entry.Attributes & FileAttributes.ReparsePoint) == 0,
    };

    /// <summary>Whether a file may be executed, and is a program or a script; where it is a link, what it leads to.</summary>
    private static bool IsProgram(FileInfo file)
    {
        if (file.ResolveLinkTarget(returnFinalTarget: true) is { } target)
            return target is FileInfo { Exists: true, LinkTarget: null } real && IsProgram(real);
        if ((file.UnixFileMode & UnixFileMode.UserExecute) == 0 || file.Length < 2) return false;
        var head = Head(file.FullName, 4);
        return head.AsSpan().StartsWith("#!"u8) || head.AsSpan().SequenceEqual("\u007fELF"u8);
    }

    /// <summary>The side of a square PNG picture, after its specification; 0 for everything else.</summary>
    private static int PictureSide(FileInfo file)
    {
        if (file.LinkTarget is not null || !file.Name.EndsWith(".png", StringComparison.Ordinal)) return 0;
        var head = Head(file.FullName, 24);
        if (head.Length < 24 || !head.AsSpan().StartsWith("\u0089PNG"u8[1..]) && head[0] != 0x89) return 0;
        var (width, height) = (BinaryPrimitives.ReadInt32BigEndian(head.AsSpan(16)),
            BinaryPrimitives.ReadInt32BigEndian(head.AsSpan(20)));
        return width == height ? width : 0;
    }

    private static Platform? PlatformOf(string path) => ElfFile.Read(path) is { } elf
        && ElfFile.ArchitectureOf(elf.Machine) is { } machine && Platform.TryParse($"{machine}-linux-gnu", out var platform)
        ? platform
        : null;

    /// <summary>What the loader needs to know of a program or library; null for everything else.</summary>
    private static PackedElf? ElfOf(FileInfo file, string inside)
    {
        if (file.Length < 64 || !Head(file.FullName, 4).AsSpan().SequenceEqual("\u007fELF"u8)
            || ElfFile.ReadWithVersions(file.FullName) is not { } elf) return null;
        return new PackedElf(inside, elf.Interpreter is not null, elf.Needed, elf.NeededVersions)
        {
            SearchPaths = elf.SearchPaths, Named = NamedPaths.Find(file.FullName),
        };
    }

    /// <summary>What a script or module needs; null for everything else, and for what is no text.</summary>
    private static PackedScript? ScriptOf(FileInfo file, string inside)
    {
        if (file.Length is < 2 or > MostScript) return null;
        if (!Head(file.FullName, 2).AsSpan().SequenceEqual("#!"u8) && ScriptReader.LanguageOf(null, inside) is null) return null;
        var text = Encoding.UTF8.GetString(File.ReadAllBytes(file.FullName));
        try
        {
            return ScriptReader.Read(inside, text);
        }
        catch (System.Text.RegularExpressions.RegexMatchTimeoutException)
        {
            return new PackedScript(inside, ScriptReader.InterpreterOf(text), [], [], []);
        }
    }

    private static byte[] Head(string path, int length)
    {
        var head = new byte[length];
        using var file = File.OpenRead(path);
        return head[..file.ReadAtLeast(head, length, throwOnEndOfStream: false)];
    }

    private static async Task<(Sha256Digest Sha256, long Size)> HashAsync(string path, CancellationToken cancel)
    {
        await using var file = File.OpenRead(path);
        return (Sha256Digest.FromBytes(await System.Security.Cryptography.SHA256.HashDataAsync(file, cancel)), file.Length);
    }

    private static Artifact ArtifactOf(PackageContents contents) => new()
    {
        Platform = Platform.Parse("any-linux-any"), Format = contents.Format,
        Location = ArtifactLocation.TryParse($"files/{contents.FileName}", out var location)
            ? location
            : ArtifactLocation.Parse("file"),
        Sha256 = contents.Sha256, DownloadSize = contents.Size,
    };
}
