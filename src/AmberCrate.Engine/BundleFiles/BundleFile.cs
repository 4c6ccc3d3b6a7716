using System.Text;
using AmberCrate.Core.Bundles;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.BundleFiles;

/// <summary>Reads and writes bundles on disk.</summary>
public static class BundleFile
{
    private const UnixFileMode Mode =
        UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.GroupRead | UnixFileMode.OtherRead;

    /// <summary>Reads a bundle without what it builds on.</summary>
    /// <exception cref="ProblemException">The file is not there, or has faults.</exception>
    public static Bundle Read(string path) => Read(path, out _);

    /// <summary>Reads a bundle without what it builds on, and its text.</summary>
    /// <exception cref="ProblemException">The file is not there, or has faults.</exception>
    public static Bundle Read(string path, out string text)
    {
        var bytes = ReadBytes(path);
        text = Text(bytes, path);
        return Parse(text, path);
    }

    /// <summary>Reads the bytes of a bundle.</summary>
    /// <exception cref="ProblemException">The file is not there, or is too large for a bundle.</exception>
    /// <param name="path">The file.</param>
    /// <param name="shown">What messages call it; null for its path.</param>
    public static byte[] ReadBytes(string path, string? shown = null)
    {
        if (!File.Exists(path))
            throw new Problem(ProblemCode.NothingMatched, $"there is no bundle {shown ?? path}").ToException();
        using var file = new FileStream(path, FileMode.Open, FileAccess.Read, FileShare.ReadWrite | FileShare.Delete);
        var bytes = new MemoryStream();
        var buffer = new byte[1 << 16];
        for (int read; (read = file.Read(buffer)) > 0;)
        {
            bytes.Write(buffer, 0, read);
            if (bytes.Length > BundleLoading.MostBytes)
                throw new Problem(
                    ProblemCode.NotVerified, $"{path} is no bundle",
                    $"a bundle has at most {BundleLoading.MostBytes >> 20} MiB").ToException();
        }

        return bytes.ToArray();
    }

    /// <summary>Reads a bundle from its bytes.</summary>
    /// <param name="bytes">The bytes.</param>
    /// <param name="name">What messages call it.</param>
    /// <exception cref="ProblemException">It has faults.</exception>
    public static Bundle Parse(byte[] bytes, string name) => Parse(Text(bytes, name), name);

    /// <summary>Writes a new file, whole or not at all, and gives its absolute path.</summary>
    /// <exception cref="ProblemException">There is a file of that name already, or it cannot be written.</exception>
    public static string Create(string path, string text)
    {
        var full = RequireFolder(path);
        if (File.Exists(full))
            throw new Problem(
                ProblemCode.Refused, $"{path} exists already", "it may still be needed", "name another file, or remove it")
                    .ToException();
        WriteText(path, full, text);
        return full;
    }

    /// <summary>Replaces the text of a bundle, whole or not at all.</summary>
    /// <exception cref="ProblemException">It cannot be written.</exception>
    public static void Replace(string path, string text) => WriteText(path, Path.GetFullPath(path), text);

    private static Bundle Parse(string text, string name)
    {
        var faults = new List<FormatFault>();
        return BundleReader.Read(text, Path.GetFileName(name), faults) ?? throw Faulty(name, faults).ToException();
    }

    private static string Text(byte[] bytes, string name)
    {
        var faults = new List<FormatFault>();
        var text = TextFile.Decode(bytes, Path.GetFileName(name), faults);
        return faults.Count == 0 ? text : throw Faulty(name, faults).ToException();
    }

    private static Problem Faulty(string name, List<FormatFault> faults) => new(
        ProblemCode.NotVerified, $"{name} has {FormatFault.Words(faults.Count)}",
        "nothing has been changed", "correct them; docs/formats/bundle.md describes every key")
    { Details = [.. faults.Select(fault => fault.ToString())] };

    /// <summary>Writes a bundle, whole or not at all.</summary>
    /// <param name="path">The file.</param>
    /// <param name="bundle">What the machine holds.</param>
    /// <param name="update">Whether an existing file is brought up to date; otherwise an existing file is refused.</param>
    /// <returns>The path as an absolute one, and the names of entries of an existing file that the machine does not
    /// hold.</returns>
    /// <exception cref="ProblemException">The file exists already, is not a valid bundle, or cannot be written.</exception>
    public static (string Path, IReadOnlyList<string> NotHere) Write(string path, Bundle bundle, bool update)
    {
        var full = RequireFolder(path);
        if (!File.Exists(full))
        {
            WriteText(path, full, BundleWriter.Write(bundle));
            return (full, []);
        }

        if (!update)
        {
            throw new Problem(
                ProblemCode.Refused, $"{path} exists already", "it may have been edited",
                "add --update to bring it up to date and keep comments and order, or name another file").ToException();
        }

        var existing = Read(full, out var text);
        WriteText(path, full, BundleWriter.Update(text, bundle));
        var here = bundle.Apps.Select(app => app.Reference.Name).ToHashSet();
        return (full, [.. existing.Apps.Select(app => app.Reference.Name).Where(name => !here.Contains(name))]);
    }

    private static string RequireFolder(string path)
    {
        var full = Path.GetFullPath(path);
        return Path.GetDirectoryName(full) is { } folder && Directory.Exists(folder) ? full : throw new Problem(
            ProblemCode.NothingMatched, $"{path} cannot be written", $"there is no folder {Path.GetDirectoryName(full)}")
                .ToException();
    }

    private static void WriteText(string path, string full, string text)
    {
        try
        {
            AtomicFile.Write(full, Encoding.UTF8.GetBytes(text), Mode);
        }
        catch (Exception fault) when (IoProblems.IsExpected(fault))
        {
            throw IoProblems.ToProblem(fault, $"{path} cannot be written").ToException(fault);
        }
    }
}
