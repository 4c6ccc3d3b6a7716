using System.Security.Cryptography;
using AmberCrate.Core.Bundles;
using AmberCrate.Core.CardFiles;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Plans;

/// <summary>
/// Fixes every version and digest of a bundle, dependencies included. It is not a signature: whoever can write the file can seal
/// it again.
/// </summary>
public static class BundleSeal
{
    /// <summary>Seals a bundle.</summary>
    /// <param name="bundle">The bundle, without layers.</param>
    /// <param name="plan">The plan of it on a machine that has nothing.</param>
    /// <param name="day">The day.</param>
    /// <param name="dataOf">Gives the day of a catalogue's data.</param>
    /// <exception cref="ArgumentException">The plan leaves something out.</exception>
    public static Bundle Seal(Bundle bundle, Plan plan, DateOnly day, Func<CatalogueName, DateOnly?> dataOf)
    {
        if (plan.Items.Any(item => !item.Fetches)) throw new ArgumentException("every item must fetch something", nameof(plan));
        var asked = bundle.Apps.ToLookup(app => app.Reference.Name, StringComparer.Ordinal);
        var locations = bundle.Catalogues.ToDictionary(catalogue => catalogue.Name);
        return bundle with
        {
            Sealed = day,
            LeftBehind = [],
            Catalogues =
            [
                .. plan.Items.Select(item => item.Offer!.Catalogue).Distinct()
                    .OrderBy(name => locations.Keys.ToList().IndexOf(name))
                    .Select(name => locations[name] with { Data = dataOf(name), Cards = DigestOf(name, plan) }),
            ],
            Apps = [.. plan.Items.Select(item => Fixed(item, asked[item.Id].FirstOrDefault()))],
        };
    }

    /// <summary>
    /// The digest of what a catalogue's cards say about the releases of a plan: each card as a line of a published catalogue,
    /// with that one release in it, and a line feed behind it; in the order of their ids.
    /// </summary>
    /// <param name="catalogue">The catalogue.</param>
    /// <param name="plan">The plan.</param>
    public static Sha256Digest DigestOf(CatalogueName catalogue, Plan plan)
    {
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        foreach (var item in plan.Items.Where(item => item.Release is not null && item.Offer?.Catalogue == catalogue)
            .OrderBy(item => item.Id, StringComparer.Ordinal))
        {
            hash.AppendData(CardJson.Write(item.Offer!.Card with { Releases = [item.Release!] }));
            hash.AppendData("\n"u8);
        }

        return Sha256Digest.FromBytes(hash.GetHashAndReset());
    }

    private static BundleApp Fixed(PlanItem item, BundleApp? asked)
    {
        var entry = asked ?? new BundleApp(new(item.Offer!.Catalogue, item.Id, null), null) { IsDependency = true };
        return entry with
        {
            Reference = entry.Reference with { Catalogue = item.Offer!.Catalogue, Name = item.Id },
            Version = item.Release!.Version,
            Sha256 = item.DeliveryDigest,
            Platform = item.Platform,
            When = null,
            InstallerArguments = item.InstallerArguments.Count > 0 ? item.InstallerArguments : entry.InstallerArguments,
        };
    }
}
