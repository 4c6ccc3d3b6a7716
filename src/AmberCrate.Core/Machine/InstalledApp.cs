using System.Text.Json.Serialization;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Machine;

/// <summary>An app that this tool has installed, as its record says.</summary>
public sealed record InstalledApp
{
    private const int DigestInName = 8;

    /// <summary>The id.</summary>
    public required AppId Id { get; init; }

    /// <summary>The name for people.</summary>
    public required string Name { get; init; }

    /// <summary>What it is.</summary>
    public required AppKind Kind { get; init; }

    /// <summary>The version that is live.</summary>
    public required AppVersion Version { get; init; }

    /// <summary>The architecture of its artifact, or <c>any</c>.</summary>
    public required string Architecture { get; init; }

    /// <summary>The line of the release.</summary>
    public required ReleaseLine Line { get; init; }

    /// <summary>The day on which the release came out.</summary>
    public required DateOnly Released { get; init; }

    /// <summary>The catalogue it came from, and stays with.</summary>
    public required CatalogueName Catalogue { get; init; }

    /// <summary>Where that catalogue was: another one of its name is not the same.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public string? CatalogueLocation { get; init; }

    /// <summary>What the user asked for behind the <c>@</c>; null where they did not say.</summary>
    public VersionSelector? Follows { get; init; }

    /// <summary>When it was put there.</summary>
    public required DateTimeOffset InstalledAt { get; init; }

    /// <summary>The address of the artifact; of the first where it came from several.</summary>
    public required string Source { get; init; }

    /// <summary>The digest of what delivered it, as <see cref="Delivery.Sha256"/> says.</summary>
    public required Sha256Digest Sha256 { get; init; }

    /// <summary>The files that it came from, in the order of unpacking; null where it came from one.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public IReadOnlyList<DeliveredFile>? SeveralFiles { get; init; }

    /// <summary>The files that it came from, in the order of unpacking.</summary>
    [JsonIgnore]
    public IReadOnlyList<DeliveredFile> Files =>
        SeveralFiles is { Count: > 0 } files ? files : [new DeliveredFile(Source, Sha256)];

    /// <summary>Whether a user has stated the digest, instead of the catalogue's.</summary>
    public bool IsDigestStated { get; init; }

    /// <summary>Whether it was installed without a signature, because the user asked for that.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public bool IsUnsigned { get; init; }

    /// <summary>What it does not work without.</summary>
    public IReadOnlyList<RelatedApp> Needs { get; init; } = [];

    /// <summary>What cannot be there beside it.</summary>
    public IReadOnlyList<RelatedApp> Conflicts { get; init; } = [];

    /// <summary>
    /// What its installer was given by the user, beside what its card says; remembered for upgrades and bundles.
    /// </summary>
    public IReadOnlyList<string> InstallerArguments { get; init; } = [];

    /// <summary>What it has placed outside the shelf.</summary>
    public IReadOnlyList<PlacedItem> Placed { get; init; } = [];

    /// <summary>
    /// Whether it has replaced another file of the same version, so that its folder on the shelf needs a name of its own.
    /// </summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public bool HasReplaced { get; init; }

    /// <summary>When its things were placed: what was touched later was touched by someone else. Null for not noted.</summary>
    public DateTimeOffset? PlacedAt { get; init; }

    /// <summary>Whether it was pulled in by another, and no person has asked for it.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public bool IsDependency { get; init; }

    /// <summary>How many bytes its files on the shelf have; null where that was not noted.</summary>
    public long? Size { get; init; }

    /// <summary>How many of them it shares with the version before it.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public long Shared { get; init; }

    /// <summary>Whether it is uninstalled only after its protection has been lifted, as its card says.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public bool IsProtected { get; init; }

    /// <summary>Whether it brings itself up to date, as its card says.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public bool UpdatesItself { get; init; }

    /// <summary>Where it keeps settings and data in a user's home, as its card says.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public IReadOnlyList<string>? Settings { get; init; }

    /// <summary>Where it says which version it is; null where nothing does.</summary>
    public VersionSource? VersionSource { get; init; }

    /// <summary>The platform that a user chose for it instead of the machine's own; null for that.</summary>
    public Platform? Platform { get; init; }

    /// <summary>The name of its folder below <c>shelf/&lt;id&gt;/</c>.</summary>
    [JsonIgnore]
    public string ShelfName => $"{Version}+{Architecture}{(HasReplaced ? "." + Sha256.Hex[..DigestInName] : "")}";

    /// <summary>Whether the user asked for versions rather than for a line, so that newer ones may be out of bounds.</summary>
    [JsonIgnore]
    public bool IsHeld => Follows is not null and not VersionSelector.OfLine;
}
