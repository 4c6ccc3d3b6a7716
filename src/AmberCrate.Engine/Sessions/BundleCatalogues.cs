using AmberCrate.Core.Bundles;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Records;

namespace AmberCrate.Engine.Sessions;

/// <summary>The catalogues of a bundle on this machine.</summary>
/// <param name="records">What this machine remembers of catalogues.</param>
/// <param name="catalogues">Its catalogues.</param>
internal sealed class BundleCatalogues(RecordStore records, KnownCatalogues catalogues)
{
    /// <summary>The catalogues of a bundle that are new here.</summary>
    /// <param name="bundle">The bundle.</param>
    /// <param name="allowsUnsigned">Whether the user has said that they need not be signed.</param>
    /// <exception cref="ProblemException">A catalogue of the same name is at another location or without its root here, or a new
    /// one is not signed.</exception>
    public IReadOnlyList<RegisteredCatalogue> NewOnes(Bundle bundle, bool allowsUnsigned)
    {
        var known = records.Catalogues().ToDictionary(catalogue => catalogue.Name);
        var added = new List<RegisteredCatalogue>();
        foreach (var wanted in bundle.Catalogues)
        {
            var isAddress = Address.Is(wanted.Location);
            var location = isAddress ? CatalogueRefresh.Normalise(wanted.Location) : Path.GetFullPath(wanted.Location);
            if (!known.TryGetValue(wanted.Name, out var here))
            {
                added.Add(new RegisteredCatalogue(wanted.Name, location)
                {
                    Trust = TrustOf(wanted, location, allowsUnsigned),
                });
            }
            else if (here.Location != location) throw IsElsewhere(here, location).ToException();

            // Where it is signed here too, this machine goes by the root that it trusts itself: an earlier or a later one of the
            // same catalogue has another digest.
            else if (wanted.Root is not null && here.Trust.Root is null)
                throw new Problem(
                    ProblemCode.Refused, $"the catalogue {here.Name} is signed, and this machine has it without its root",
                    $"the bundle names the root {wanted.Root}",
                    $"{NextCommand.Create("catalogue drop", here.Name.Text)}, and run the command again").ToException();
        }

        return added;
    }

    /// <summary>
    /// Why a new catalogue is believed. One that was trusted under a root before is believed under that one: a bundle does not
    /// change it.
    /// </summary>
    private CatalogueTrust TrustOf(BundleCatalogue wanted, string location, bool allowsUnsigned)
    {
        var before = records.RootOf(wanted.Name);
        return before is not null && (wanted.Root is not null || !allowsUnsigned) ? CatalogueTrust.FromRoot(before)
            : wanted.Root is { } root ? CatalogueTrust.FromRoot(root)
            : CatalogueAdmission.OfBundle(wanted.Name, location, before, allowsUnsigned);
    }

    /// <summary>
    /// What the catalogues of this machine and the new ones of a bundle offer. What is fetched of the new ones is of no effect
    /// until they are added.
    /// </summary>
    /// <param name="added">The new ones.</param>
    /// <param name="cancel">Cancels the operation.</param>
    public async Task<(CachedOffers Offers, IReadOnlyList<RefreshResult> Fetched)> OffersAsync(
        IReadOnlyList<RegisteredCatalogue> added, CancellationToken cancel)
    {
        var fetched = added.Count == 0 ? [] : await catalogues.RefreshAsync(added, cancel);
        return (catalogues.OffersWith(
            fetched.Where(result => result.Problem is null).Select(result => result.Catalogue.Name)), fetched);
    }

    private static Problem IsElsewhere(RegisteredCatalogue here, string location) => new(
        ProblemCode.Refused,
        $"the catalogue {here.Name} has another location here than in the bundle",
        $"here it is at {here.Location}, in the bundle at {location}",
        $"change the location in the bundle, or remove the catalogue here: "
            + $"{NextCommand.Create("catalogue drop", here.Name.Text)}");
}
