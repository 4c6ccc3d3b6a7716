using AmberCrate.Core.Cards;
using AmberCrate.Core.Due;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Offers;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Requirements;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Plans;

/// <summary>What a plan does with one app, and why.</summary>
public sealed record PlanItem
{
    /// <summary>The app's id; what an entry of a bundle calls it where that means no known app.</summary>
    public required string Id { get; init; }

    /// <summary>The app, if it is installed or a release of it was chosen; null otherwise.</summary>
    public AppId? App => Installed?.Id ?? Restores?.Id ?? Offer?.Card.Id;

    /// <summary>What is done.</summary>
    public required PlanAction Action { get; init; }

    /// <summary>The app as it is now; null where it is not installed.</summary>
    public InstalledApp? Installed { get; init; }

    /// <summary>Where the new version comes from; null if none is needed.</summary>
    public Offer? Offer { get; init; }

    /// <summary>The release to be there afterwards; null where it is removed or not available.</summary>
    public Release? Release { get; init; }

    /// <summary>The files that deliver it.</summary>
    public Delivery? Delivery { get; init; }

    /// <summary>
    /// The digest that the user has stated instead of the card's, having checked that file; null for the card's. Only what comes
    /// as one file can have it.
    /// </summary>
    public Sha256Digest? StatedSha256 { get; init; }

    /// <summary>
    /// The digest that the delivery to be installed must have: as stated, otherwise the card's; null where there is none.
    /// </summary>
    public Sha256Digest? DeliveryDigest => StatedSha256 ?? Delivery?.Sha256;

    /// <summary>
    /// The files that carrying it out needs, in the order of unpacking, each with the digest that it must have; empty where it
    /// needs none.
    /// </summary>
    public IEnumerable<(Artifact File, Sha256Digest Digest)> FilesToFetch =>
        Fetches ? Delivery!.Files.Select(file => (file, StatedSha256 ?? file.Sha256)) : [];

    /// <summary>What the user gives to its installer, beside what its card says.</summary>
    public IReadOnlyList<string> InstallerArguments { get; init; } = [];

    /// <summary>Whether a program of the vendor is run to install it.</summary>
    public bool RunsInstaller => Fetches && Delivery!.IsInstaller;

    /// <summary>What is remembered as asked for.</summary>
    public VersionSelector? Follows { get; init; }

    /// <summary>The ids of what it is taken along for; empty for what was requested.</summary>
    public IReadOnlyList<string> NeededBy { get; init; } = [];

    /// <summary>
    /// The other catalogues that have an app which is new here, and the version that each would give; null where nothing of it
    /// fits.
    /// </summary>
    public IReadOnlyList<(CatalogueName Catalogue, AppVersion? Version)> AlsoIn { get; init; } = [];

    /// <summary>Why nothing is done, or what else there is to know.</summary>
    public IReadOnlyList<PlanNote> Notes { get; init; } = [];

    /// <summary>The notes as one sentence; may be empty.</summary>
    public Advice Note => Advice.Join("; ", Notes.Select(note => note.Text));

    /// <summary>
    /// Why the item cannot be carried out although an app is offered, such as a foreign file in its way; null where it can.
    /// </summary>
    public Problem? Obstacle { get; init; }

    /// <summary>What the system lacks that the release requires; then it has an obstacle too.</summary>
    public IReadOnlyList<SystemLack> Lacks { get; init; } = [];

    /// <summary>The files and folders in a user's home that are deleted with it.</summary>
    public IReadOnlyList<string> RemovedSettings { get; init; } = [];

    /// <summary>The platform that a user chose for it instead of the machine's own; null for that.</summary>
    public Platform? Platform { get; init; }

    /// <summary>Whether a user answers its installer on the terminal.</summary>
    public bool IsAttended { get; init; }

    /// <summary>
    /// Whether it is installed without a signature: no trusted root has signed this card, and the user asked for it with
    /// <c>--unsigned</c>.
    /// </summary>
    public bool IsUnsigned { get; init; }

    /// <summary>
    /// Whether it becomes older although the user did not ask for an older version, because the installed version does not fit
    /// the apps that the user asked for. The user must confirm this separately.
    /// </summary>
    public bool IsMadeOlder { get; private init; }

    /// <summary>Whether it stays as it is because of a pin.</summary>
    public bool IsPinned { get; init; }

    /// <summary>The version now; null where it is not installed.</summary>
    public AppVersion? From => Installed?.Version;

    /// <summary>The version afterwards; null where it is removed or not available.</summary>
    public AppVersion? To =>
        Action is PlanAction.Remove or PlanAction.Cannot ? null : Restores?.Version ?? Release?.Version ?? Installed?.Version;

    /// <summary>Whether carrying the item out changes anything on the machine.</summary>
    public bool Changes => Action is not (PlanAction.Keep or PlanAction.Cannot);

    /// <summary>
    /// The same item with a digest that the user has stated for its file; as it is where that is the card's, or nothing is
    /// fetched.
    /// </summary>
    internal PlanItem WithAcceptedDigests(Sha256Digest digest) =>
        Fetches && digest != Delivery!.Sha256 ? this with { StatedSha256 = digest } : this;

    /// <summary>The item of an app that stays as it is, since something is in the way of what was to be done.</summary>
    public PlanItem Hindered(Problem obstacle) =>
        this with
        {
            Action = PlanAction.Cannot,
            Obstacle = obstacle,
            Notes = [PlanNote.Refused(obstacle)],
            Wanted = Wanted ?? (Action, To),
        };

    /// <summary>What was to be done, and the version to be there afterwards, if something is in the way.</summary>
    public (PlanAction Action, AppVersion? To)? Wanted { get; private init; }

    /// <summary>What the card states differently since the app was installed.</summary>
    public IReadOnlyList<CardChange> CardChanges { get; private init; } = [];

    /// <summary>The same item with what its card states differently since the app was installed.</summary>
    internal PlanItem WithCardChanges(IReadOnlyList<CardChange> changes) => changes.Count == 0 ? this
        : this with { CardChanges = changes, Notes = [.. Notes, .. changes.Select(PlanNote.CardChanged)] };

    /// <summary>The same item, of an app that becomes older although the user did not ask for that.</summary>
    internal PlanItem MadeOlder() => this with { IsMadeOlder = true };

    /// <summary>The item that puts a release on, instead of what exists.</summary>
    /// <exception cref="ProblemException">The installed app belongs to another catalogue.</exception>
    internal static PlanItem Changing(InstalledApp? installed, ReleaseChoice choice, VersionSelector? asked)
    {
        CatalogueChange.RequireNone(installed, choice.Offer.Catalogue);
        return Changed(installed, choice, asked);
    }

    private static PlanItem Changed(InstalledApp? installed, ReleaseChoice choice, VersionSelector? asked) => new()
    {
        Id = choice.Offer.Card.Id.Text,
        Action = installed is null
            ? PlanAction.Install
            : choice.Release.Version == installed.Version ? PlanAction.Replace
            : choice.Release.Version > installed.Version ? PlanAction.Upgrade : PlanAction.Downgrade,
        Installed = installed, Offer = choice.Offer, Release = choice.Release, Delivery = choice.Delivery, Follows = asked,
        InstallerArguments = installed?.InstallerArguments ?? [], IsDependency = installed?.IsDependency ?? false,
        Platform = installed?.Platform,
    };

    /// <summary>Whether carrying the item out needs its files.</summary>
    public bool Fetches => PutsOn && Restores is null;

    /// <summary>Whether a version is there afterwards that was not, or not as it should be.</summary>
    public bool PutsOn => Action is PlanAction.Install or PlanAction.Upgrade or PlanAction.Downgrade or PlanAction.Replace
        or PlanAction.Repair;

    /// <summary>
    /// The state of the app to go to, whose version is on the shelf already, so that nothing is fetched; null where a version is
    /// put on from its artifact.
    /// </summary>
    public InstalledApp? Restores { get; init; }

    /// <summary>
    /// The state of the app to go back to, whose file is still on this machine although its catalogue does not offer it now; null
    /// in every other case.
    /// </summary>
    public InstalledApp? PutsBack { get; init; }

    /// <summary>The item that puts a version back from its file and what was kept of its card; null if it cannot.</summary>
    /// <param name="now">The app as it is; null where it is not installed.</param>
    /// <param name="before">The state to go back to.</param>
    /// <param name="machine">The machine.</param>
    internal static PlanItem? PuttingBack(InstalledApp? now, InstalledApp before, MachineState machine)
    {
        if (machine.Kept(before) is not { Card.Releases: [var release] } kept
            || release.Version != before.Version || release.Deliveries.ToList() is not [var delivery]) return null;
        var offer = new Offer(before.Catalogue, kept.Base, kept.Card);
        return Changing(now, new ReleaseChoice(offer, release, delivery), before.Follows) with
        {
            PutsBack = before,
            StatedSha256 = delivery.Sha256 == before.Sha256 ? null : before.Sha256,
            InstallerArguments = before.InstallerArguments,
            IsDependency = before.IsDependency,
            Platform = before.Platform,
            IsUnsigned = before.IsUnsigned,
            Notes = before.IsUnsigned ? [PlanNote.FromCache(), PlanNote.NotSignedBy(before.Catalogue)] : [PlanNote.FromCache()],
        };
    }

    /// <summary>Whether it is there only for other apps.</summary>
    public bool IsDependency { get; init; }
}
