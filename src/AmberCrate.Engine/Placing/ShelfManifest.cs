using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Placing;

/// <summary>
/// What a version on the shelf consists of, taken when it came there. Kept beside its folder as text that
/// <c>sha256sum --check</c> reads too: see docs/formats/shelf.md.
/// </summary>
/// <param name="Files">Its files and links, ordered by path.</param>
public sealed record ShelfManifest(IReadOnlyList<ShelfFile> Files)
{
    private const string Title = "# amber-crate files 2", WithoutModes = "# amber-crate files 1", ModeMark = "# mode ",
        SizeMark = "# size ", LinkMark = "# link ", ToMark = "# to ",
        SharedMark = "# shared ";

    private const int Octal = 8, Permissions = 0x1FF;
    private const UnixFileMode Executes = UnixFileMode.UserExecute | UnixFileMode.GroupExecute | UnixFileMode.OtherExecute;

    /// <summary>The permissions that a user needs to use a file.</summary>
    private const UnixFileMode ToUse = Executes | UnixFileMode.UserRead | UnixFileMode.GroupRead | UnixFileMode.OtherRead;

    /// <summary>How many bytes it shares with the version that was there before it.</summary>
    public long Shared { get; init; }

    /// <summary>How many bytes all its files have.</summary>
    public long Size => Files.Sum(file => file.Size);

    /// <summary>Takes the manifest of a folder; the digests are computed on every processor.</summary>
    /// <param name="folder">The folder.</param>
    /// <param name="cancel">Cancels the operation.</param>
    /// <exception cref="IOException">A file cannot be read.</exception>
    public static ShelfManifest Scan(string folder, CancellationToken cancel)
    {
        var found = FilesAndLinksIn(folder).ToArray();
        var files = new ShelfFile?[found.Length];
        Parallel.For(0, found.Length, new ParallelOptions { CancellationToken = cancel }, at =>
            files[at] = FileOf(folder, found[at]));
        return new ShelfManifest([.. files.OfType<ShelfFile>().OrderBy(file => file.Path, StringComparer.Ordinal)]);
    }

    /// <summary>Reads a manifest; null where there is none, or it cannot be read.</summary>
    /// <param name="path">The file.</param>
    public static ShelfManifest? Read(string path)
    {
        try
        {
            // Shared with everybody, and so without a lock: it is written once, and renamed into place.
            using var file = new StreamReader(new FileStream(
                path, FileMode.Open, FileAccess.Read, FileShare.ReadWrite | FileShare.Delete, 0));
            var lines = file.ReadToEnd().TrimEnd('\n').Split('\n');
            return lines.Length > 0 && lines[0] is Title or WithoutModes ? Parse(lines) : null;
        }
        catch (Exception fault) when (fault is IOException or UnauthorizedAccessException or FormatException
            or MalformedException)
        {
            return null;
        }
    }

    /// <summary>The text of a manifest.</summary>
    public string Write()
    {
        var text = new StringBuilder(Title).Append('\n');
        UnixFileMode? mode = null;
        if (Shared > 0) text.Append(SharedMark).Append(CultureInfo.InvariantCulture, $"{Shared}\n");
        foreach (var file in Files)
        {
            if (file.Target is { } target)
                text.Append(LinkMark).Append(Escaped(file.Path)).Append('\n').Append(ToMark).Append(Escaped(target)).Append('\n');
            else
            {
                var name = Escaped(file.Path);
                if (file.Mode is { } its && its != mode)
                    text.Append(ModeMark).Append(Convert.ToString((int)(mode = its).Value, Octal)).Append('\n');
                text.Append(SizeMark).Append(CultureInfo.InvariantCulture, $"{file.Size}\n")
                    .Append(name == file.Path ? "" : "\\").Append(file.Sha256!.Hex).Append("  ").Append(name).Append('\n');
            }
        }

        return text.ToString();
    }

    /// <summary>What of a folder is not as the manifest has it, in words; empty where all is.</summary>
    /// <param name="folder">The folder of the version.</param>
    /// <param name="isDeep">Whether the content of every file is read; otherwise only that it is there with its length and its
    /// permissions.</param>
    /// <param name="cancel">Cancels the operation.</param>
    public IReadOnlyList<(string Path, string Fault)> FaultsIn(string folder, bool isDeep, CancellationToken cancel)
    {
        var faults = new string?[Files.Count];
        if (isDeep)
            Parallel.For(0, Files.Count, new ParallelOptions { CancellationToken = cancel }, at =>
                faults[at] = FaultOf(folder, Files[at], isDeep));
        else
            for (var at = 0; at < faults.Length; at++) faults[at] = FaultOf(folder, Files[at], isDeep);
        var known = Files.Select(file => file.Path).ToHashSet(StringComparer.Ordinal);
        List<(string, string)> found =
            [.. Files.Select((file, at) => (file.Path, faults[at])).Where(one => one.Item2 is not null).Select(one => (one.Path,
                one.Item2!))];
        if (!isDeep || !Directory.Exists(folder)) return found;
        found.AddRange(FilesAndLinksIn(folder)
            .Select(entry => Path.GetRelativePath(folder, entry.FullName))
            .Where(path => !known.Contains(path))
            .Order(StringComparer.Ordinal)
            .Select(path => (path, "was not there when it was installed")));
        return found;
    }

    /// <summary>The digest of a file.</summary>
    internal static Sha256Digest DigestOf(string path)
    {
        using var file = new FileStream(path, FileMode.Open, FileAccess.Read, FileShare.Read, 1, FileOptions.SequentialScan);
        return Sha256Digest.FromBytes(SHA256.HashData(file));
    }

    private static IEnumerable<FileSystemInfo> FilesAndLinksIn(string folder) =>
        FolderTree.In(folder).Where(entry => entry.LinkTarget is not null || entry is FileInfo);

    /// <summary>One file; null where its name is no text, so that it cannot be opened by it.</summary>
    private static ShelfFile? FileOf(string folder, FileSystemInfo found)
    {
        var path = Path.GetRelativePath(folder, found.FullName);
        if (path.Contains('\ufffd', StringComparison.Ordinal) && !Posix.IsThere(found.FullName)) return null;
        if (found.LinkTarget is { } target) return new ShelfFile(path, 0, null, target);
        return new ShelfFile(
            path, ((FileInfo)found).Length, DigestOf(found.FullName), null, found.UnixFileMode & (UnixFileMode)Permissions);
    }

    private static string? FaultOf(string folder, ShelfFile file, bool isDeep)
    {
        var found = new FileInfo(Path.Combine(folder, file.Path));
        try
        {
            if (file.Target is { } target)
                return found.LinkTarget == target ? null : Posix.IsThere(found.FullName) ? "is not the link that it was"
                    : "is missing";
            if (!found.Exists) return Posix.IsThere(found.FullName) ? "is not a file any more" : "is missing";
            if (found.LinkTarget is not null) return "is a link now";
            if (found.Length != file.Size) return $"has {found.Length} bytes instead of {file.Size}";
            if ((file.Mode & ~found.UnixFileMode & ToUse) is { } lost and not UnixFileMode.None) return LostWords(lost);
            return isDeep && DigestOf(found.FullName) != file.Sha256 ? "has another content" : null;
        }
        catch (Exception fault) when (fault is IOException or UnauthorizedAccessException)
        {
            return $"cannot be read ({IoProblems.ToProblem(fault, "").Why})";
        }
    }

    private static string LostWords(UnixFileMode lost) => (lost & Executes) != 0
        ? "has lost its permission to be executed"
        : "has lost its permission to be read";

    private static ShelfManifest Parse(string[] lines)
    {
        var files = new List<ShelfFile>();
        long? size = null;
        string? link = null;
        UnixFileMode? mode = null;
        var shared = 0L;
        foreach (var line in lines.Skip(1))
        {
            if (line.StartsWith(SharedMark, StringComparison.Ordinal)) shared = Number(line[SharedMark.Length..]);
            else if (line.StartsWith(ModeMark, StringComparison.Ordinal)) mode = ModeIn(line[ModeMark.Length..]);
            else if (line.StartsWith(SizeMark, StringComparison.Ordinal)) size = Number(line[SizeMark.Length..]);
            else if (line.StartsWith(LinkMark, StringComparison.Ordinal)) link = Inside(Unescaped(line[LinkMark.Length..]));
            else if (line.StartsWith(ToMark, StringComparison.Ordinal))
                files.Add(new ShelfFile(
                    link ?? throw new FormatException(line), 0, null, Unescaped(line[ToMark.Length..])));
            else
            {
                const int digits = 64;
                var isEscaped = line.StartsWith('\\');
                var plain = isEscaped ? line[1..] : line;
                if (plain.Length < digits + 3 || plain[digits..(digits + 2)] != "  ") throw new FormatException(line);
                var name = plain[(digits + 2)..];
                files.Add(new ShelfFile(
                    Inside(isEscaped ? Unescaped(name) : name), size ?? throw new FormatException(line),
                    Sha256Digest.Parse(plain[..digits]), null, mode));
            }
        }

        return new ShelfManifest(files) { Shared = shared };
    }

    /// <summary>Nobody but us writes it; one that leads out of the folder all the same is not believed.</summary>
    private static string Inside(string path) =>
        path.StartsWith('/') || path.Split('/').Contains("..") ? throw new FormatException(path) : path;

    private static UnixFileMode ModeIn(string text) =>
        text.Length is > 0 and < 5 && text.All(digit => digit is >= '0' and <= '7') && Convert.ToInt32(text, Octal) is var mode
            && mode <= Permissions
            ? (UnixFileMode)mode
            : throw new FormatException(text);

    private static long Number(string text) => long.Parse(text, NumberStyles.None, CultureInfo.InvariantCulture);

    /// <summary>As sha256sum(1) writes names: a backslash and an end of line are escaped.</summary>
    private static string Escaped(string name) => name.Replace("\\", "\\\\", StringComparison.Ordinal)
        .Replace("\n", "\\n", StringComparison.Ordinal).Replace("\r", "\\r", StringComparison.Ordinal);

    private static string Unescaped(string name)
    {
        var text = new StringBuilder();
        for (var at = 0; at < name.Length; at++)
        {
            if (name[at] == '\\' && at + 1 < name.Length)
                text.Append(name[++at] switch { 'n' => '\n', 'r' => '\r', var other => other });
            else text.Append(name[at]);
        }

        return text.ToString();
    }
}
