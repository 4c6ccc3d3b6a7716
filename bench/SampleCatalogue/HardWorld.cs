using AmberCrate.Core.Cards;
using AmberCrate.Core.Offers;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.SampleCatalogue;

/// <summary>Made-up catalogues for which planning is hard, and what is asked of them.</summary>
/// <param name="Name">What is hard about it.</param>
/// <param name="Offers">The catalogue.</param>
/// <param name="Wanted">What is asked for.</param>
public sealed record HardWorld(string Name, IOffers Offers, IReadOnlyList<AppReference> Wanted)
{
    private static readonly DateOnly Day = new(2026, 1, 1);

    /// <summary>All of them.</summary>
    public static IEnumerable<HardWorld> All =>
    [
        Chain(1000), Ladder(200), Places(7, 6), Places(8, 7), Places(12, 11), Random(60, 5, 800, 1), Random(60, 5, 1000, 2),
        Random(60, 5, 1200, 3), Random(100, 5, 1700, 4),
    ];

    /// <summary>
    /// Each app needs the next in the same version, and the last one lacks the newest nine of ten: every version but the oldest
    /// is tried in vain.
    /// </summary>
    private static HardWorld Chain(int length) =>
        Of($"a chain of {length} apps, of which the last allows only the oldest of ten versions", 1, [.. Enumerable
            .Range(0, length)
            .Select(app => Card(
        app, app == length - 1 ? 1 : 10, version => app == length - 1 ? [] : [$"{Id(app + 1)}@{version}"], _ => []))]);

    /// <summary>Two rails of apps; each needs one of either rail on the next step, newer on one and older on the other.</summary>
    private static HardWorld Ladder(int steps) =>
        Of($"a ladder of {steps} steps, whose rails pull against each other", 2, [.. Enumerable.Range(0, steps * 2)
            .Select(app => Card(
        app, 6, version => app >= (steps - 1) * 2
            ? []
            : [$"{Id((app / 2 * 2) + 2)}@{version}..", $"{Id((app / 2 * 2) + 3)}@..{version + 1}"], _ => []))]);

    /// <summary>
    /// More apps than places, and no two in one: a classic for which every proof by resolution is long (A. Haken, 1985).
    /// </summary>
    private static HardWorld Places(int apps, int places) =>
        Of($"{apps} apps in {places} places, no two in one", apps, [.. Enumerable.Range(0, apps).Select(app => Card(
        app, places, _ => [],
        version => [.. Enumerable.Range(0, apps).Where(other => other > app).Select(other => $"{Id(other)}@{version}")]))]);

    /// <summary>Conflicts at random, about as many as are needed to leave no plan.</summary>
    private static HardWorld Random(int apps, int versions, int conflicts, int seed)
    {
        var random = new Random(seed);
        var pairs = Enumerable.Range(0, conflicts).Select(_ => (App: random.Next(apps), Version: 1 + random.Next(
            versions), Other: random.Next(apps), OtherVersion: 1 + random.Next(versions))).ToLookup(
                pair => (pair.App, pair.Version));
        return Of($"{apps} apps of {versions} versions with {conflicts} conflicts at random", apps, [.. Enumerable.Range(0, apps)
            .Select(app => Card(
            app, versions, _ => [], version => [.. pairs[(app, version)].Where(pair => pair.Other != app)
                .Select(pair => $"{Id(pair.Other)}@{pair.OtherVersion}")
                .Distinct()]))]);
    }

    private static HardWorld Of(string name, int wanted, IReadOnlyList<AppCard> cards) =>
        new(name, new CardList(cards), [.. Enumerable.Range(0, wanted).Select(app => new AppReference(null, Id(app), null))]);

    private static string Id(int app) => $"app-{app}";

    private static AppCard Card(
        int app, int versions, Func<int, IReadOnlyList<string>> needs, Func<int, IReadOnlyList<string>> conflicts) => new()
        {
            Id = AppId.Parse(Id(app)), Kind = AppKind.DesktopApp, Name = Id(app), Summary = "Made to be hard",
            Releases = [.. Enumerable.Range(1, versions).Reverse().Select(version => new Release
        {
            Version = AppVersion.Parse($"{version}"), Date = Day, Needs = [.. needs(version).Select(RelatedApp.Parse)],
            Conflicts = [.. conflicts(version).Select(RelatedApp.Parse)],
            Artifacts = [new Artifact
            {
                Platform = Platform.Parse("any-linux-any"), Location = ArtifactLocation.Parse("files/a"),
                Format = ArtifactFormat.TarGz, Sha256 = Sha256Digest.Parse(new string('0', 64)), DownloadSize = 1,
            }],
        })],
        };

    /// <summary>Cards in memory as one catalogue.</summary>
    private sealed class CardList(IReadOnlyList<AppCard> cards) : IOffers
    {
        private static readonly CatalogueName Only = CatalogueName.Parse("hard");
        private readonly Dictionary<AppId, Offer> _offers =
            cards.ToDictionary(card => card.Id, card => new Offer(Only, new Uri("file:///hard/"), card));

        public IReadOnlyList<CatalogueName> Catalogues { get; } = [Only];

        public IReadOnlyList<CatalogueName> Paused { get; } = [];

        public IReadOnlyList<CatalogueName> Unfetched { get; } = [];

        public void Expect(IEnumerable<AppId> ids, bool everyRelease)
        {
            // They are ready.
        }

        public IReadOnlyList<Offer> Find(AppId id) => _offers.TryGetValue(id, out var offer) ? [offer] : [];

        public IReadOnlyList<AppId> Named(string squashed) => [];

        public IReadOnlyList<AppId> Closest(string name) => [];
    }
}
