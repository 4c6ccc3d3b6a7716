using AmberCrate.Core.Cards;
using AmberCrate.Core.Due;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Offers;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Planning;

/// <summary>Everything that decides what may happen to an app on a machine.</summary>
/// <param name="Reference">How the user has named it.</param>
/// <param name="Offer">The app as the catalogue offers it that it would come from; null where it is installed and offered no
/// more.</param>
/// <param name="Choice">What this machine would get; null where nothing fits.</param>
/// <param name="Installed">The app as installed; null where it is not.</param>
/// <param name="Others">The same id in other catalogues.</param>
public sealed record AppAssessment(
    AppReference Reference, Offer? Offer, ReleaseChoice? Choice, InstalledApp? Installed, IReadOnlyList<OtherOffer> Others)
{
    /// <summary>What is also installed, because it is needed and not there.</summary>
    public IReadOnlyList<PlanItem> Along { get; private init; } = [];

    /// <summary>Why what is needed is not available; null where it can.</summary>
    public Problem? AlongProblem { get; private init; }

    /// <summary>The id.</summary>
    public AppId Id => Offer?.Card.Id ?? Installed!.Id;

    /// <summary>The newest release of every line, the default line first.</summary>
    public IReadOnlyList<Release> Lines => field ??= NewestOfLines();

    /// <summary>The newest release for this machine, if all of them have been withdrawn; otherwise null.</summary>
    public Release? Withdrawn { get; private init; }

    /// <summary>
    /// Why it stays at the installed version although there is a newer one that it follows; null if it does not.
    /// </summary>
    public string? HeldBack { get; private init; }

    /// <summary>Whether it is installed, and its catalogue has another file by now for that version.</summary>
    public bool IsChanged { get; private init; }

    /// <summary>
    /// What to type to have what is shown: the id, with catalogue and selector where the user gave them or the first
    /// catalogue would not do. Null where it is there already, or not available.
    /// </summary>
    public NextCommand? Next
    {
        get
        {
            if (Choice is not { } choice || AlongProblem is not null) return null;
            if (Installed is null) return NextCommand.Create("install", $"{Reference with { Name = Id.Text }}");
            return IsChanged || (choice.Release.Version > Installed.Version && HeldBack is null)
                ? NextCommand.Create("upgrade", Id.Text)
                : null;
        }
    }

    /// <summary>
    /// Studies the app that a reference means. An installed one is shown as its own catalogue offers it, unless another is named.
    /// </summary>
    /// <exception cref="ProblemException">No app fits, or several do, or none of its releases fits the selector.</exception>
    public static AppAssessment Assess(AppReference reference, IOffers offers, MachineState machine)
    {
        if (NameResolver.Orphan(reference, offers, machine) is { } orphan)
            return new AppAssessment(reference, null, null, orphan, []);
        var found = NameResolver.Offered(reference, offers);
        var installed = machine.Find(found[0].Card.Id);
        var offer = reference.Catalogue is null
            ? found.FirstOrDefault(other => other.Catalogue == installed?.Catalogue) ?? FirstFitting(found, reference, machine)
            : found[0];
        var choice = reference.Selector is null
            ? ReleaseChoice.Find([offer], installed?.Follows, machine.Platform)
                ?? ReleaseChoice.Find([offer], null, machine.Platform)
            : ReleaseChoice.Require([offer], reference.Selector, machine.Platform);
        var others = new List<OtherOffer>();
        foreach (var other in offers.Find(offer.Card.Id))
        {
            if (other.Catalogue != offer.Catalogue) others.Add(OtherOffer.Compare(other, offer, choice, machine.Platform));
        }

        var due = installed is null ? null : HeldUpgrades.MarkOne(installed, offers, machine);
        return WithNeeds(
            new AppAssessment(reference, offer, choice, installed, others)
            {
                Withdrawn = choice is null ? ReleaseChoice.FindWithdrawn([offer], null, machine.Platform)?.Release : null,
                HeldBack = due?.State == DueState.HeldBack ? due.HeldWords : null, IsChanged = due?.State == DueState.Changed,
            },
            offers, machine);
    }

    private List<Release> NewestOfLines()
    {
        var newest = new List<Release>();
        foreach (var release in Offer?.Card.Releases ?? [])
        {
            if (newest.Exists(known => known.Line == release.Line)) continue;
            if (release.Line == Choice?.Release.Line) newest.Insert(0, release);
            else newest.Add(release);
        }

        return newest;
    }

    private static AppAssessment WithNeeds(AppAssessment assessment, IOffers offers, MachineState machine)
    {
        if (assessment.Choice is not { } choice || choice.Offer.Card.NeedsOf(choice.Release).Count == 0) return assessment;
        try
        {
            return assessment with
            {
                Along =
                [
                    .. new Planner(machine, offers).Assess(choice)
                        .Where(other => other.Id != assessment.Id.Text && other.Changes),
                ],
            };
        }
        catch (ProblemException refused)
        {
            return assessment with { AlongProblem = refused.Problem };
        }
    }

    /// <summary>The offer that an installation would take.</summary>
    private static Offer FirstFitting(IReadOnlyList<Offer> found, AppReference reference, MachineState machine) =>
        ReleaseChoice.Find(found, reference.Selector, machine.Platform)?.Offer ?? found[0];
}
