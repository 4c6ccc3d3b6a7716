using AmberCrate.Core.Bundles;
using AmberCrate.Core.Requirements;
using AmberCrate.Core.Values;
using AmberCrate.Engine.KitFiles;

namespace AmberCrate.Engine.Kits;

/// <summary>A kit that has been made or looked at.</summary>
/// <param name="Files">Its files.</param>
/// <param name="Manifest">What it says about itself.</param>
/// <param name="Bundle">The sealed bundle in it.</param>
/// <param name="Size">How many bytes its files have.</param>
/// <param name="Now">The time.</param>
public sealed record KitResult(
    IReadOnlyList<string> Files, KitManifest Manifest, Bundle Bundle, long Size, DateTimeOffset Now)
{
    /// <summary>The program that was written beside it; null for none.</summary>
    public string? Program { get; init; }

    /// <summary>What the cards of a kit that was just made say that the other machine must have.</summary>
    public IReadOnlyList<SystemRequirement> Requirements { get; init; } = [];

    /// <summary>The apps of a kit that was just made whose cards do not say that.</summary>
    public IReadOnlyList<string> Silent { get; init; } = [];

    /// <summary>How many bytes the files of an entry have, by the digest of the entry.</summary>
    public required IReadOnlyDictionary<Sha256Digest, long> Sizes { get; init; }

    /// <summary>How many of the bytes an earlier try had written.</summary>
    public long Kept { get; init; }

    /// <summary>Versions that the catalogues of this machine have by now, by app; none where they know nothing newer.</summary>
    public IReadOnlyDictionary<string, string> Newer { get; init; } = new Dictionary<string, string>();
}
