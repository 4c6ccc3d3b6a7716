using AmberCrate.Core.Placements;
using AmberCrate.Core.Requirements;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Cards;

/// <summary>Everything a catalogue says about one app.</summary>
public sealed record AppCard
{
    /// <summary>The version of the card format that this program reads and writes.</summary>
    public const int FormatVersion = 1;

    /// <summary>The key of a card's file that gives the version of its format.</summary>
    public const string FormatKey = "appcard";

    /// <summary>The ending of a card's file name.</summary>
    public const string FileEnding = ".appcard.toml";

    private readonly LazyList<Placement>? _laterPlacement;

    /// <summary>The id.</summary>
    public required AppId Id { get; init; }

    /// <summary>What it is.</summary>
    public required AppKind Kind { get; init; }

    /// <summary>The name for people.</summary>
    public required string Name { get; init; }

    /// <summary>One line about it.</summary>
    public required string Summary { get; init; }

    /// <summary>Paragraphs about it; null where the card is silent.</summary>
    public string? Description { get; init; }

    /// <summary>Who makes it; null where the card is silent.</summary>
    public Developer? Developer { get; init; }

    /// <summary>Its page; null where the card is silent.</summary>
    public string? Homepage { get; init; }

    /// <summary>Its licence as an SPDX expression; null where the card is silent.</summary>
    public string? Licence { get; init; }

    /// <summary>Categories of the Desktop Menu specification.</summary>
    public IReadOnlyList<string> Categories { get; init; } = [];

    /// <summary>Further words that people search for it with.</summary>
    public IReadOnlyList<string> Keywords { get; init; } = [];

    /// <summary>The types of file that it opens, after the Shared MIME-info specification.</summary>
    public IReadOnlyList<string> MimeTypes { get; init; } = [];

    /// <summary>Pictures of it at work.</summary>
    public IReadOnlyList<Screenshot> Screenshots { get; init; } = [];

    /// <summary>What it is called and what it is for in other languages than English, each language once.</summary>
    public IReadOnlyList<Translation> Translations { get; init; } = [];

    /// <summary>Whether it asks for a sign-in; null where the card is silent.</summary>
    public SignIn? SignIn { get; init; }

    /// <summary>Whether it asks for a licence key; null where the card is silent.</summary>
    public SignIn? LicenceKey { get; init; }

    /// <summary>What a user will have to do when it is installed; null where the card is silent.</summary>
    public IReadOnlyList<Attention>? Attention { get; init; }

    /// <summary>Whether it is uninstalled only after its protection has been lifted.</summary>
    public bool IsProtected { get; init; }

    /// <summary>Whether it brings itself up to date, so that it is upgraded only where it is named.</summary>
    public bool UpdatesItself { get; init; }

    /// <summary>Where it keeps settings and data in a user's home, each as <see cref="SettingsPath"/> has it.</summary>
    public IReadOnlyList<string> Settings { get; init; } = [];

    /// <summary>The names under which systems have it as a package of their own.</summary>
    public IReadOnlyList<string> SystemPackages { get; init; } = [];

    /// <summary>Where an installed one says which version it is; null where nothing does.</summary>
    public VersionSource? VersionSource { get; init; }

    /// <summary>What the catalogue's maintainers say about it.</summary>
    public Review Review { get; init; } = new(ReviewState.Unreviewed);

    /// <summary>What it does not work without, unless a release says otherwise.</summary>
    public IReadOnlyList<RelatedApp> Needs { get; init; } = [];

    /// <summary>What cannot be there beside it, unless a release says otherwise.</summary>
    public IReadOnlyList<RelatedApp> Conflicts { get; init; } = [];

    /// <summary>What it expects the system to have, unless a release says otherwise; null where the card is silent.</summary>
    public IReadOnlyList<SystemRequirement>? Requirements { get; init; }

    /// <summary>Its releases, newest first.</summary>
    public required IReadOnlyList<Release> Releases { get; init; }

    /// <summary>What it places, unless a release says otherwise.</summary>
    public Placement Placement
    {
        get => _laterPlacement?[0] ?? field;
        init => (field, _laterPlacement) = (value, null);
    } = Placement.Nothing;

    /// <summary>The placement, in a list of one that reads it when it is requested; null where it was read at once.</summary>
    internal LazyList<Placement>? LaterPlacement
    {
        init => _laterPlacement = value;
    }

    /// <summary>What a release of this app places.</summary>
    public Placement PlacementOf(Release release) => release.Placement ?? Placement;

    /// <summary>What a release of this app does not work without.</summary>
    public IReadOnlyList<RelatedApp> NeedsOf(Release release) => release.Needs ?? Needs;

    /// <summary>
    /// What a release of this app expects the system to have; null where the card is silent.
    /// </summary>
    public IReadOnlyList<SystemRequirement>? RequirementsOf(Release release) => release.Requirements ?? Requirements;

    /// <summary>What cannot be there beside a release of this app.</summary>
    public IReadOnlyList<RelatedApp> ConflictsOf(Release release) => release.Conflicts ?? Conflicts;

    /// <summary>Releases that a machine can use and a selector accepts, newest first.</summary>
    /// <param name="machine">The machine's platform.</param>
    /// <param name="selector">What is accepted; null for the line that the app is followed on by default.</param>
    public IEnumerable<Release> ReleasesFor(Platform machine, VersionSelector? selector)
    {
        selector ??= new VersionSelector.OfLine(DefaultLineFor(machine));
        foreach (var release in Releases)
        {
            if (release.DeliveryFor(machine) is not null && selector.Accepts(release.Version, release.Line)) yield return release;
        }
    }

    /// <summary>
    /// The line that the app is followed on by default: stable where there is such a release for a machine, otherwise the line of
    /// the newest one.
    /// </summary>
    public ReleaseLine DefaultLineFor(Platform machine)
    {
        ReleaseLine? first = null;
        for (var at = 0; at < Releases.Count; at++)
        {
            var release = Releases[at];
            if (release.DeliveryFor(machine) is null) continue;
            if (release.Line == ReleaseLine.Stable) return ReleaseLine.Stable;
            first ??= release.Line;
        }

        return first ?? ReleaseLine.Stable;
    }
}
