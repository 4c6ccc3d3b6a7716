using AmberCrate.Core.Due;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Plans;

/// <summary>
/// What a run will do with apps, catalogues and pins, in the order it will do it: the solved request. It says nothing about the
/// machine's files yet; <see cref="SurveyedPlan"/> does.
/// </summary>
/// <param name="Items">The items.</param>
public sealed record Plan(IReadOnlyList<PlanItem> Items)
{
    /// <summary>The catalogues that it adds before the first item, and those that it should add and cannot.</summary>
    public IReadOnlyList<PlannedCatalogue> Catalogues { get; init; } = [];

    /// <summary>The ids of dependencies that no app needs afterwards, and that stay.</summary>
    public IReadOnlyList<string> NotNeeded { get; init; } = [];

    /// <summary>The catalogues that will be added.</summary>
    public IEnumerable<PlannedCatalogue> AddedCatalogues =>
        Catalogues.Where(catalogue => catalogue.Problem is null && !catalogue.IsDropped);

    /// <summary>The catalogues that will be dropped.</summary>
    public IEnumerable<PlannedCatalogue> DroppedCatalogues => Catalogues.Where(catalogue => catalogue.IsDropped);

    /// <summary>The pins that it sets, changes or lifts before the first item.</summary>
    public IReadOnlyList<PlannedPin> Pins { get; init; } = [];

    /// <summary>Whether carrying it out changes anything.</summary>
    public bool Changes => ChangesApps || AddedCatalogues.Any() || DroppedCatalogues.Any() || Pins.Count > 0;

    /// <summary>Whether carrying it out changes an app.</summary>
    public bool ChangesApps => Items.Any(item => item.Changes);

    /// <summary>
    /// The line to paste that installs what the system lacks for apps of the plan; null where it lacks nothing, or no package is
    /// known. It is not run from here.
    /// </summary>
    public string? InstallLine { get; init; }

    /// <summary>The bundle that it comes from; null if it comes from none.</summary>
    public PlannedBundle? Bundle { get; init; }

    /// <summary>Whether all its files come from a kit, so that nothing is downloaded.</summary>
    public bool IsFromKit { get; init; }

    /// <summary>The catalogues whose apps in a kit could not be checked. The user asked for them with --unsigned.</summary>
    public IReadOnlyList<CatalogueName> UncheckedInKit { get; init; } = [];

    /// <summary>The catalogues of the items that are installed without a signature.</summary>
    public IEnumerable<CatalogueName> NotSigned =>
        Items.Where(item => item.IsUnsigned).Select(item => item.Offer!.Catalogue).Distinct();

    /// <summary>The files that it needs, each once, with their sizes in bytes.</summary>
    public IEnumerable<(Sha256Digest Digest, long Size)> FilesToFetch => Items.SelectMany(item => item.FilesToFetch)
        .DistinctBy(one => one.Digest).Select(one => (one.Digest, one.File.DownloadSize));

    /// <summary>How many bytes have to be downloaded at most, cached files not counted off.</summary>
    public long DownloadSize => Items.Where(item => item.Fetches).Sum(item => item.Delivery!.DownloadSize);

    /// <summary>
    /// The same plan with what the cards state differently since the apps were installed. What goes back to an earlier state
    /// has no part in it.
    /// </summary>
    /// <param name="machine">The machine, with the cards that its apps were installed with.</param>
    public Plan WithCardChanges(MachineState machine) => this with
    {
        Items = [.. Items.Select(item => item is { Fetches: true, PutsBack: null, Installed: { } installed, Offer.Card: { } card }
            && machine.InstalledCard(installed) is { } before ? item.WithCardChanges(CardChange.Between(before, card)) : item)],
    };

    /// <summary>
    /// The same plan with digests that the user has stated, for apps whose files have changed since the catalogue was written.
    /// </summary>
    /// <param name="stated">Digests by id.</param>
    /// <exception cref="ProblemException">One is for an app that nothing is fetched for.</exception>
    public Plan WithAcceptedDigests(IReadOnlyDictionary<string, Sha256Digest> stated)
    {
        if (stated.Keys.FirstOrDefault(id => !Items.Any(item => item.Fetches && item.Id == id)) is { } idle)
        {
            throw new Problem(
                ProblemCode.BadCommandLine, $"--accept-digest names {idle}, which this run does not download",
                "nothing has been changed",
                "name an app that the plan installs or changes, by its id").ToException();
        }

        if (Items.FirstOrDefault(item => item.Delivery?.Files.Count > 1 && stated.ContainsKey(item.Id)) is { } several)
        {
            throw new Problem(
                ProblemCode.BadCommandLine, $"--accept-digest names {several.Id} {several.To}, which comes in several files",
                "one digest does not say which of them has changed",
                "ask the catalogue's maintainer to correct the card").ToException();
        }

        return this with
        {
            Items =
            [
                .. Items.Select(item => stated.TryGetValue(item.Id, out var digest) ? item.WithAcceptedDigests(digest) : item),
            ],
        };
    }

    /// <summary>The same plan with arguments for installers. They take the place of what was remembered.</summary>
    /// <param name="given">The arguments by id.</param>
    /// <exception cref="ProblemException">Some are for an app that runs no installer.</exception>
    public Plan WithInstallerArguments(IReadOnlyDictionary<string, IReadOnlyList<string>> given)
    {
        if (given.Keys.FirstOrDefault(id => !Items.Any(item => item.RunsInstaller && item.Id == id)) is { } idle)
        {
            throw new Problem(
                ProblemCode.BadCommandLine, $"--installer-argument names {idle}, which has no installer in this run",
                "nothing has been changed",
                "name an app that this run installs with an installer, by its id").ToException();
        }

        return given.Count == 0 ? this : this with
        {
            Items = [.. Items.Select(
                item => given.TryGetValue(item.Id, out var arguments) ? item with { InstallerArguments = arguments } : item)],
        };
    }
}
