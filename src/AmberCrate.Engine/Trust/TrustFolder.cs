using AmberCrate.Core.Problems;
using AmberCrate.Core.Trust;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Trust;

/// <summary>
/// What is believed of signed catalogues, kept between refreshes: for each first root, named by its digest, the current root and
/// the last good timestamp, snapshot and targets. Each file is replaced whole, and is on the disk before anything is built on
/// it, so that no crash loses a root.
/// </summary>
/// <param name="folder">The folder; only its owner may write it.</param>
public sealed class TrustFolder(string folder)
{
    /// <summary>The names of the files.</summary>
    public const string Root = "root.json", Timestamp = "timestamp.json", Snapshot = "snapshot.json", Targets = "targets.json";

    /// <summary>The file of a delegated role.</summary>
    public static string Delegated(string role) => $"role-{role}.json";

    private const UnixFileMode Mode =
        UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.GroupRead | UnixFileMode.OtherRead;
    private const long MostBytes = 64 << 20;

    /// <summary>A file that is believed under a first root; null where there is none.</summary>
    /// <param name="first">The digest of the first root.</param>
    /// <param name="name">The file, or the name of a delegated role's.</param>
    /// <exception cref="ProblemException">Someone else can write it.</exception>
    public byte[]? Read(Sha256Digest first, string name)
    {
        var path = PathOf(first, name);
        if (!File.Exists(path)) return null;
        RequireOwn(Path.GetDirectoryName(path)!);
        RequireOwn(path);
        return new FileInfo(path).Length <= MostBytes ? File.ReadAllBytes(path) : null;
    }

    /// <summary>
    /// Keeps a file that is believed, unless a newer one is there: refreshes take no lock, and a slow one must not take back what
    /// a quick one has learned since. Targets are always kept: the snapshot says which version of them counts, and after a stolen
    /// key was replaced that may be an earlier one.
    /// </summary>
    public void Write(Sha256Digest first, string name, ReadOnlySpan<byte> bytes)
    {
        var path = PathOf(first, name);
        AtomicFile.MakeFolder(Path.GetDirectoryName(path)!);
        RequireOwn(Path.GetDirectoryName(path)!);
        if (name is Root or Timestamp or Snapshot && Read(first, name) is { } known
            && VersionOf(known) > VersionOf(bytes)) return;
        AtomicFile.Write(path, bytes, Mode);
    }

    /// <summary>The version of a file; 0 if it cannot be read.</summary>
    private static long VersionOf(ReadOnlySpan<byte> bytes)
    {
        try
        {
            return RoleSummary.Parse(bytes).Version;
        }
        catch (MalformedException)
        {
            return 0;
        }
    }

    /// <summary>Forgets files that are no longer believed.</summary>
    public void Remove(Sha256Digest first, params IEnumerable<string> names) =>
        AtomicFile.Remove(names.Select(name => PathOf(first, name)).Where(File.Exists));

    private string PathOf(Sha256Digest first, string name) => Path.Combine(folder, first.Hex, name);

    private static void RequireOwn(string path)
    {
        if (FileOwnership.IsOurs(path)) return;
        throw new Problem(
            ProblemCode.NotVerified, $"{path} can be written by others", "what it says of catalogues cannot be believed",
            $"chmod go-w {path}, and see who has changed it").ToException();
    }
}
