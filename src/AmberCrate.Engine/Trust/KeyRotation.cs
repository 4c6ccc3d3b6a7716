using AmberCrate.Core.Problems;
using AmberCrate.Core.Trust;
using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Trust;

/// <summary>
/// Replaces a key of a published catalogue. The old one is put aside first and kept. Where no new root has been written, it is
/// put back; where one has, the new key stays, since the root names it.
/// </summary>
/// <param name="published">The published folder.</param>
/// <param name="folder">The folder of the keys.</param>
/// <param name="passphrase">Their passphrase; null for none.</param>
/// <param name="clock">Tells the time.</param>
public sealed class KeyRotation(string published, string folder, string? passphrase, TimeProvider clock)
{
    /// <summary>Does it.</summary>
    /// <param name="name">The key: root, targets or online.</param>
    /// <returns>Which roles were signed.</returns>
    /// <exception cref="ProblemException">A key is missing, or nothing has been signed there.</exception>
    public IReadOnlyList<TrustRole> Run(string name)
    {
        if (!SignedRepository.IsSigned(published))
            throw new Problem(ProblemCode.NothingMatched, $"{published} is not a signed catalogue").ToException();
        var path = new KeyRing(folder, passphrase).PathOf(name);
        var old = Path.ChangeExtension(path, ".old.pem");
        var before = KeyFile.Open(path, passphrase);
        var kept = new KeyRing(folder, passphrase);
        foreach (var role in Enum.GetValues<TrustRole>()) _ = kept.For(role);
        if (File.Exists(old)) File.Move(old, $"{old}.{clock.GetUtcNow().UtcDateTime:yyyyMMdd'T'HHmmss}");
        var roots = Roots();
        File.Move(path, old);
        try
        {
            KeyFile.Create(path, before.Key.Type, passphrase);
            Posix.FlushFolder(folder);
            return new SignedRepository(published, new KeyRing(folder, passphrase), clock.GetUtcNow()).Rotate(name, kept);
        }
        catch when (Roots() == roots)
        {
            File.Move(old, path, overwrite: true);
            throw;
        }
    }

    private int Roots() => Directory.GetFiles(published, "*.root.json").Length;
}
