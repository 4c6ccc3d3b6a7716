using System.Text;
using AmberCrate.Core.Bundles;
using AmberCrate.Core.Formats;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Bundles;

/// <summary>Reads and writes bundles on disk.</summary>
public static class BundleFile
{
    private const UnixFileMode Mode =
        UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.GroupRead | UnixFileMode.OtherRead;

    /// <summary>Reads a bundle.</summary>
    /// <exception cref="ProblemException">The file is not there, or has faults.</exception>
    public static Bundle Read(string path) => Read(path, out _);

    /// <summary>Writes a bundle, whole or not at all.</summary>
    /// <param name="path">The file.</param>
    /// <param name="bundle">What the machine holds.</param>
    /// <param name="update">Whether an existing file is brought up to date; otherwise an existing file is refused.</param>
    /// <returns>The path as an absolute one, and the names of entries of an existing file that the machine does not
    /// hold.</returns>
    /// <exception cref="ProblemException">The file exists already, is not a valid bundle, or cannot be written.</exception>
    public static (string Path, IReadOnlyList<string> NotHere) Write(string path, Bundle bundle, bool update)
    {
        var full = Path.GetFullPath(path);
        if (Path.GetDirectoryName(full) is not { } folder || !Directory.Exists(folder))
            throw new Problem(
                ProblemCode.NothingMatched,
                $"{path} cannot be written",
                $"there is no folder {Path.GetDirectoryName(full)}").ToException();
        if (!File.Exists(full))
        {
            WriteText(path, full, BundleWriter.Write(bundle));
            return (full, []);
        }

        if (!update)
        {
            throw new Problem(
                ProblemCode.Refused, $"{path} exists already", "somebody may have edited it",
                "add --update to bring it up to date and keep comments and order, or name another file").ToException();
        }

        var existing = Read(full, out var text);
        WriteText(path, full, BundleWriter.Update(text, bundle));
        var here = bundle.Apps.Select(app => app.Reference.Name).ToHashSet();
        return (full, [.. existing.Apps.Select(app => app.Reference.Name).Where(name => !here.Contains(name))]);
    }

    private static void WriteText(string path, string full, string text)
    {
        try
        {
            AtomicFile.Write(full, Encoding.UTF8.GetBytes(text), Mode);
        }
        catch (Exception fault) when (IoProblems.IsExpected(fault))
        {
            throw IoProblems.Of(fault, $"{path} cannot be written").ToException(fault);
        }
    }

    private static Bundle Read(string path, out string text)
    {
        if (!File.Exists(path)) throw new Problem(ProblemCode.NothingMatched, $"there is no bundle {path}").ToException();
        var faults = new List<FormatFault>();
        var name = Path.GetFileName(path);
        text = TextFile.Read(path, name, faults);
        var bundle = faults.Count == 0 ? BundleReader.Read(text, name, faults) : null;
        return bundle ?? throw new Problem(
            ProblemCode.NotVerified, $"{path} has {(faults.Count == 1 ? "1 fault" : $"{faults.Count} faults")}",
            "nothing has been changed", "correct them; docs/formats/bundle.md describes every key")
        { Details = [.. faults.Select(fault => fault.ToString())] }.ToException();
    }
}
