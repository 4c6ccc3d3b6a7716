using System.Security.Cryptography;
using System.Text;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Cards;

/// <summary>
/// All artifacts of a release for one platform, in the order of the card: often one file, sometimes a program, its data and
/// its private libraries. They are unpacked one after another into one shelf entry.
/// </summary>
public sealed class Delivery : IEquatable<Delivery>
{
    private Sha256Digest? _sha256;

    /// <summary>Makes a delivery.</summary>
    /// <param name="files">Its artifacts, at least one, all for the same platform.</param>
    public Delivery(IReadOnlyList<Artifact> files)
    {
        if (files.Count == 0) throw new ArgumentException("expected at least one file", nameof(files));
        Files = files;
    }

    /// <summary>Its artifacts, at least one, in the order of unpacking.</summary>
    public IReadOnlyList<Artifact> Files { get; }

    /// <summary>The platform on which they run.</summary>
    public Platform Platform => Files[0].Platform;

    /// <summary>
    /// Identifies what is delivered: the digest of the file; of several files, the SHA-256 digest of their digests, each in
    /// hexadecimal digits with a line feed after it.
    /// </summary>
    public Sha256Digest Sha256 => _sha256 ??= Combine([.. Files.Select(file => file.Sha256)]);

    /// <summary>The size of all files as downloaded, in bytes.</summary>
    public long DownloadSize => Files.Sum(file => file.DownloadSize);

    /// <summary>The size of everything once unpacked, in bytes; null where the card is silent about one of them.</summary>
    public long? InstalledSize =>
        Files.All(file => file.InstalledSize is not null) ? Files.Sum(file => file.InstalledSize) : null;

    /// <summary>Whether it is a vendor's installer.</summary>
    public bool IsInstaller => Files[0].Format == ArtifactFormat.Installer;

    /// <summary>The digest that identifies files with these digests together.</summary>
    /// <param name="files">The digests of the files, at least one, in order.</param>
    public static Sha256Digest Combine(IReadOnlyList<Sha256Digest> files)
    {
        if (files is [var only]) return only;
        var lines = string.Concat(files.Select(file => file.Hex + "\n"));
        return Sha256Digest.FromBytes(SHA256.HashData(Encoding.ASCII.GetBytes(lines)));
    }

    /// <inheritdoc/>
    public bool Equals(Delivery? other) => other is not null && Files.SequenceEqual(other.Files);

    /// <inheritdoc/>
    public override bool Equals(object? obj) => Equals(obj as Delivery);

    /// <inheritdoc/>
    public override int GetHashCode() => Sha256.GetHashCode();
}
