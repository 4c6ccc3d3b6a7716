using AmberCrate.Core.Cards;
using AmberCrate.Core.Formats;
using AmberCrate.Core.Placements;
using AmberCrate.Core.Requirements;
using AmberCrate.Core.Versions;
using static AmberCrate.Core.CardFiles.CardFormats;

namespace AmberCrate.Core.CardFiles;

/// <summary>The keys of a release.</summary>
internal static class ReleaseKeys
{
    /// <summary>The keys of a release.</summary>
    public static readonly KeyTable<Release> Table = new(values => new Release
    {
        Version = Version!.In(values), Date = Date!.In(values), DeclaredLine = Line!.In(values), Notes = Notes!.In(values),
        Urgency = Urgency!.In(values), Withdrawn = Withdrawn!.In(values),
        Needs = Needs!.In(values), Conflicts = Conflicts!.In(values), Artifacts = Artifacts!.In(values),
        Placement = Place!.In(values), Requirements = System!.In(values),
    });

    private static readonly Key<Release, AppVersion> Version = Table.Required(
        "version", new ParsedFormat<AppVersion>(AppVersion.TryParse, AppVersion.Expected, version => version.Text),
        release => release.Version, "see [versions.md](../versions.md); each once");

    private static readonly Key<Release, DateOnly> Date =
        Table.Required("date", Dates, release => release.Date, "the day on which it came out");

    private static readonly Key<Release, ReleaseLine?> Line = Table.Optional(
        "line", new ParsedFormat<ReleaseLine>(ReleaseLine.TryParse, ReleaseLine.Expected, line => line.Name),
        release => release.DeclaredLine,
        "lower-case letters, digits and hyphens, at most 32; otherwise `preview` for a pre-release and `stable` for the rest");

    private static readonly Key<Release, string?> Notes =
        Table.Optional("description", Paragraphs, release => release.Notes, "what is new in it");

    private static readonly Key<Release, Urgency?> Urgency = Table.Optional(
        "urgency", new ChoiceFormat<Urgency>(CardWords.Urgencies), release => release.Urgency,
        "how much it matters to those who have an older one, AppStream's word; `critical` marks a security fix. The words");

    private static readonly Key<Release, string?> Withdrawn = Table.Optional(
        "withdrawn", OneLine, release => release.Withdrawn,
        "why it must not be installed any more. It is never installed then, and machines that have it report it");

    private static readonly Key<Release, IReadOnlyList<RelatedApp>?> Needs = Table.Optional(
        "needs", Related, release => release.Needs, "what this release does not work without, instead of the card's");

    private static readonly Key<Release, IReadOnlyList<RelatedApp>?> Conflicts = Table.Optional(
        "conflicts", Related, release => release.Conflicts, "what cannot be there beside this release, instead of the card's");

    private static readonly Key<Release, IReadOnlyList<SystemRequirement>?> System = Table.Optional(
        RequirementKeys.Name, Many(RequirementKeys.Table), release => release.Requirements,
        "what this release expects the system to have, instead of the card's");

    private static readonly Key<Release, IReadOnlyList<Artifact>> Artifacts = Table.Required(
        "artifacts", Many(ArtifactKeys.Table, isReadLater: true), release => release.Artifacts,
        "at least one; all for the same platform are unpacked into one shelf entry, in this order");

    private static readonly Key<Release, Placement?> Place = Table.Optional(
        PlacementKeys.Name, One(PlacementKeys.Table), release => release.Placement,
        "what this release places, instead of the card's");
}
