using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Offers;
using AmberCrate.Core.Searching;
using AmberCrate.Core.Tests.Cards;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Tests.Planning;

/// <summary>Offers held in memory, and machines to go with them.</summary>
internal sealed class FixedOffers(params (string Catalogue, AppCard Card)[] offers) : IOffers
{
    public static readonly Platform Here = Platform.Parse("x86_64-linux-gnu");

    public IReadOnlyList<CatalogueName> Catalogues { get; } =
    [
        .. offers.Select(offer => CatalogueName.Parse(offer.Catalogue)).Distinct(),
    ];

    public IReadOnlyList<CatalogueName> Paused { get; init; } = [];

    public IReadOnlyList<CatalogueName> Unfetched { get; init; } = [];

    public void Expect(IEnumerable<AppId> ids, bool everyRelease)
    {
        // They are ready.
    }

    public IReadOnlyList<Offer> Find(AppId id) =>
        [.. offers.Where(offer => offer.Card.Id == id)
            .Select(offer => new Offer(CatalogueName.Parse(offer.Catalogue), new Uri("file:///cat/"), offer.Card))];

    public IReadOnlyList<AppId> Named(string squashed) =>
        [.. offers
            .Where(offer => SearchText.Squash(offer.Card.Id.Text) == squashed || SearchText.Squash(offer.Card.Name) == squashed)
            .Select(offer => offer.Card.Id)
            .Distinct()];

    public IReadOnlyList<AppId> Closest(string name) =>
        [.. NameDistance.Nearest(name, offers.Select(offer => offer.Card.Id.Text), 5).Select(AppId.Parse)];

    /// <summary>A machine with apps given as "id version catalogue [asked]".</summary>
    public static MachineState Machine(params string[] apps) => new(Here, apps.Select(Installed));

    public static InstalledApp Installed(string text)
    {
        var words = text.Split(' ');
        return new InstalledApp
        {
            Id = AppId.Parse(words[0]), Name = words[0], Kind = AppKind.DesktopApp, Version = AppVersion.Parse(words[1]),
            Architecture = "any", Line = ReleaseLine.Stable,
            Released = new DateOnly(2026, 1, 1), Catalogue = CatalogueName.Parse(words[2]),
            Follows = words.Length > 3 ? VersionSelector.Parse(words[3]) : null,
            InstalledAt = DateTimeOffset.UnixEpoch, Source = "/cat/files/a.tar.gz",
            Sha256 = Sha256Digest.Parse(CardSamples.Digest),
        };
    }
}
