using AmberCrate.Core.Problems;
using AmberCrate.Core.Trust;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Trust;

/// <summary>
/// Replaces a key of a published catalogue. The old one is put aside first and kept: it signs, together with the new one, what
/// machines read until they have the root that names the new one. A rotation that was cut off is taken up where it ended.
/// </summary>
/// <param name="published">The published folder.</param>
/// <param name="folder">The folder of the keys.</param>
/// <param name="passphrase">Their passphrase; null for none.</param>
/// <param name="clock">The clock.</param>
public sealed class KeyRotation(string published, string folder, string? passphrase, TimeProvider clock)
{
    /// <summary>Replaces the key file, so that a power cut leaves the old key or the new one.</summary>
    /// <param name="name">The key: root, targets or online.</param>
    /// <returns>What was signed, and what waits for others.</returns>
    /// <exception cref="ProblemException">A key is missing, or nothing has been signed there.</exception>
    public Signing Run(string name)
    {
        var ring = new KeyRing(folder, passphrase);
        var repository = new SignedRepository(published, ring, clock.GetUtcNow());
        var (path, old) = (ring.PathOf(name), ring.OldPathOf(name));
        var roles = Enum.GetValues<TrustRole>().Where(role => KeyRing.NameFor(role) == name).ToList();
        var named = repository.Root.Roles[roles[0]].KeyIds;
        Recover(path, old);
        _ = ring.Require(TrustRole.Root);
        var isCutOff = File.Exists(old) && File.Exists(path) && named.Contains(KeyFile.Open(old, passphrase).Key.Id)
            && !named.Contains(KeyFile.Open(path, passphrase).Key.Id);
        if (repository.NextRoot is { } next)
            return isCutOff && next.Roles[roles[0]].KeyIds.Contains(KeyFile.Open(path, passphrase).Key.Id)
                ? repository.Cosign()
                : throw new Problem(
                    ProblemCode.Refused, $"a new root of {published} waits for signatures",
                    "one change of keys goes after another", NextCommand.Create("catalogue sign", published, "--keys", "FOLDER"))
                    .ToException();
        var before = KeyFile.Open(isCutOff ? old : path, passphrase).Key;
        if (!named.Contains(before.Id))
            throw new Problem(
                ProblemCode.Refused, $"{path} is not the key that the root names for {RoleText.NameOf(roles[0])}",
                remedy: "bring the key that is named").ToException();
        if (!isCutOff) Replace(path, old, before.Type);
        ring = new KeyRing(folder, passphrase);
        var after = ring.Require(roles[0]).Key;
        var root = repository.Root;
        var rules = root.Roles.ToDictionary(pair => pair.Key, pair => roles.Contains(pair.Key)
            ? pair.Value with { KeyIds = [.. pair.Value.KeyIds.Select(id => id == before.Id ? after.Id : id)] }
            : pair.Value);
        return new SignedRepository(published, ring, clock.GetUtcNow()).Propose(rules, root.Keys.Values.Append(after));
    }

    /// <summary>Makes a new key beside the old one, puts that aside, and puts the new one in its place.</summary>
    private void Replace(string path, string old, string type)
    {
        var fresh = Path.ChangeExtension(path, ".new.pem");
        File.Delete(fresh);
        KeyFile.Create(fresh, type, passphrase);
        if (File.Exists(old)) File.Move(old, $"{old}.{clock.GetUtcNow().UtcDateTime:yyyyMMdd'T'HHmmssfffffff}");
        File.Move(path, old);
        Posix.FlushFolder(folder);
        CrashPoints.Pass();
        Recover(path, old);
    }

    /// <summary>Ends what a sudden end has left between the old key and the new one.</summary>
    private void Recover(string path, string old)
    {
        var fresh = Path.ChangeExtension(path, ".new.pem");
        if (File.Exists(path) || !File.Exists(old)) return;
        if (!File.Exists(fresh))
        {
            File.Move(old, path);
            return;
        }

        File.Move(KeyFile.PublicOf(fresh), KeyFile.PublicOf(path), overwrite: true);
        File.Move(fresh, path);
        Posix.FlushFolder(folder);
        CrashPoints.Pass();
    }
}
