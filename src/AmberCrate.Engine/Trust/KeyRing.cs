using AmberCrate.Core.Problems;
using AmberCrate.Core.Trust;
using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Trust;

/// <summary>
/// The keys of a maintainer: a folder with <c>root.pem</c>, <c>targets.pem</c> and <c>online.pem</c>, which signs timestamp and
/// snapshot and may be on the machine that renews them. A role whose file is missing is not signed here.
/// </summary>
/// <param name="folder">The folder.</param>
/// <param name="passphrase">Gives the passphrase where a key has one; null for none.</param>
/// <param name="program">A program that holds the keys that have no file; null for none.</param>
public sealed class KeyRing(string folder, string? passphrase, string? program = null)
{
    /// <summary>The names of the keys, without the ending.</summary>
    public const string Root = "root", Targets = "targets", Online = "online";

    /// <summary>The names of all keys.</summary>
    public static IReadOnlyList<string> Names { get; } = [Root, Targets, Online];

    private const string Unfinished = ".keys-are-being-made";

    private readonly Dictionary<string, ISigner?> _signers = new(StringComparer.Ordinal);

    /// <summary>The folder.</summary>
    public string Folder => folder;

    /// <summary>The file of a key.</summary>
    public string PathOf(string name) => Path.Combine(folder, $"{name}.pem");

    /// <summary>The name of the key that signs a role.</summary>
    public static string NameFor(TrustRole role) => role switch
    {
        TrustRole.Root => Root,
        TrustRole.Targets => Targets,
        TrustRole.Timestamp or TrustRole.Snapshot => Online,
    };

    /// <summary>
    /// Makes all keys of a maintainer. If this is cut off, the next try makes the missing ones. A mark in the folder shows that
    /// they are unfinished: without it, a missing root key may be in a safe.
    /// </summary>
    /// <param name="type">The type of the keys.</param>
    /// <exception cref="ProblemException">There are keys already, or they cannot be written.</exception>
    public IReadOnlyList<(string Name, TrustKey Key)> MakeAll(string type)
    {
        AtomicFile.Sweep(folder);
        var mark = Path.Combine(folder, Unfinished);
        if (!File.Exists(mark))
        {
            if (Names.Select(PathOf).FirstOrDefault(Path.Exists) is { } there) throw KeyFile.IsThere(there).ToException();
            AtomicFile.Write(mark, [], UnixFileMode.UserRead | UnixFileMode.UserWrite);
        }

        List<(string, TrustKey)> made = [.. Names.Select(name => (name, File.Exists(PathOf(name))
            ? KeyFile.Complete(PathOf(name), passphrase)
            : KeyFile.Create(PathOf(name), type, passphrase)))];
        AtomicFile.Remove([mark]);
        return made;
    }

    /// <summary>Who signs a role here; null where its key is not here.</summary>
    public ISigner? For(TrustRole role)
    {
        AtomicFile.Sweep(folder);
        var name = NameFor(role);
        if (_signers.TryGetValue(name, out var known)) return known;
        return _signers[name] = File.Exists(PathOf(name)) ? KeyFile.Open(PathOf(name), passphrase)
            : program is not null ? new ProgramSigner(program, name)
            : null;
    }

    /// <summary>All who can sign a role here: its key, and the old key of a rotation that is not finished.</summary>
    public IReadOnlyList<ISigner> AllFor(TrustRole role)
    {
        var old = OldPathOf(NameFor(role));
        return [.. new[] { For(role), File.Exists(old) ? KeyFile.Open(old, passphrase) : null }.OfType<ISigner>()];
    }

    /// <summary>The file of the key that a rotation has replaced.</summary>
    public string OldPathOf(string name) => Path.Combine(folder, $"{name}.old.pem");

    /// <summary>Who signs a role.</summary>
    /// <exception cref="ProblemException">Its key is not here.</exception>
    public ISigner Require(TrustRole role) => For(role) ?? throw new Problem(
        ProblemCode.NothingMatched, $"there is no key {PathOf(NameFor(role))}",
        $"the role {role.ToString().ToLowerInvariant()} must be signed",
        $"{NextCommand.Create("catalogue keys new", folder)}, or bring the key there").ToException();
}
