using AmberCrate.Core.Values;

namespace AmberCrate.Core.Offers;

/// <summary>What the catalogues of a machine offer.</summary>
public interface IOffers
{
    /// <summary>The names of the catalogues, in order of preference; paused ones are not among them.</summary>
    IReadOnlyList<CatalogueName> Catalogues { get; }

    /// <summary>The names of the catalogues that are known, but not asked for now.</summary>
    IReadOnlyList<CatalogueName> Paused { get; }

    /// <summary>Those of <see cref="Catalogues"/> without known data, since they have not been fetched yet.</summary>
    IReadOnlyList<CatalogueName> Unfetched { get; }

    /// <summary>
    /// The names of the catalogues for all users, where these are a user's own: they are searched, but not installed from.
    /// </summary>
    IReadOnlyList<CatalogueName> ForAllUsers => [];

    /// <summary>Says which apps the caller will look up next, so that they can be loaded together.</summary>
    /// <param name="ids">The apps.</param>
    /// <param name="everyRelease">Whether all their releases will be looked at; otherwise mostly the newest.</param>
    void Expect(IEnumerable<AppId> ids, bool everyRelease);

    /// <summary>
    /// The newest releases of apps in their catalogues, as <see cref="Searching.NewestReleases"/> keeps them: what is known of
    /// them without their cards. Apps without such data are left out.
    /// </summary>
    /// <param name="apps">The apps, each with its catalogue.</param>
    IReadOnlyDictionary<AppId, string> Glance(IReadOnlyCollection<(AppId Id, CatalogueName Catalogue)> apps) =>
        new Dictionary<AppId, string>();

    /// <summary>The offers of one app, in order of preference of their catalogues.</summary>
    IReadOnlyList<Offer> Find(AppId id);

    /// <summary>What one catalogue was last seen to offer of an app, even if it is paused; null if that is nothing.</summary>
    /// <param name="id">The app.</param>
    /// <param name="catalogue">The name of the catalogue.</param>
    Offer? LastSeen(AppId id, CatalogueName catalogue) => Find(id).FirstOrDefault(offer => offer.Catalogue == catalogue);

    /// <summary>The ids of apps whose id or name, folded and run together, is exactly this.</summary>
    IReadOnlyList<AppId> Named(string squashed);

    /// <summary>Ids of apps that may have been meant by a name that is not one, the likeliest first.</summary>
    IReadOnlyList<AppId> Closest(string name);
}
