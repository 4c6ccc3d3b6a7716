using System.Security.Cryptography;
using AmberCrate.Core.Bundles;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Offers;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Catalogues;

/// <summary>The bundles in a maintainer's folder: <c>bundles/*.bundle.toml</c>.</summary>
/// <param name="folder">The maintainer's folder.</param>
internal sealed class BundleFolder(string folder)
{
    /// <summary>The name that entries of a bundle may use for the catalogue that carries it.</summary>
    private static readonly CatalogueName Own = CatalogueName.Parse("this-catalogue");

    private static readonly Platform[] Platforms =
    [
        .. ProcessorArchitecture.All.Select(architecture => Platform.Parse($"{architecture.Name}-linux-gnu")),
    ];

    /// <summary>
    /// Reads the bundles, and checks that every entry of them can be planned. All faults are found in one pass.
    /// </summary>
    /// <param name="cards">The cards of the folder.</param>
    /// <exception cref="ProblemException">A bundle has faults.</exception>
    public IReadOnlyList<(BundleListing Listing, byte[] Text)> Read(IReadOnlyList<AppCard> cards)
    {
        var place = Path.Combine(folder, "bundles");
        if (!Directory.Exists(place)) return [];
        var (read, faults) = (new List<(BundleListing Listing, byte[] Text)>(), new List<FormatFault>());
        var bundles = new Dictionary<string, Bundle>(StringComparer.Ordinal);
        foreach (var path in Directory.EnumerateFiles(place, "*" + Bundle.FileEnding).Order(StringComparer.Ordinal))
        {
            var (file, name) = ($"bundles/{Path.GetFileName(path)}", Path.GetFileName(path)[..^Bundle.FileEnding.Length]);
            var bytes = File.ReadAllBytes(path);
            if (!BundleListing.IsName(name))
                faults.Add(new FormatFault(file, 1, "", "expected a name of lower-case letters, digits and hyphens"));
            else if (bytes.Length > BundleListing.MaxSize)
                faults.Add(new FormatFault(file, 1, "", $"expected at most {BundleListing.MaxSize >> 20} MiB"));
            else if (BundleReader.Read(TextFile.Decode(bytes, file, faults), file, faults) is { } bundle) bundles[name] = bundle;
            read.Add((new BundleListing(name, Sha256Digest.FromBytes(SHA256.HashData(bytes)), bytes.Length), bytes));
        }

        var offers = new CardOffers([.. cards.Select(card => new Offer(Own, FileAddress.OfFolder(folder), card))]);
        foreach (var (name, bundle) in bundles) Check($"bundles/{name}{Bundle.FileEnding}", bundle, bundles, offers, faults);
        if (faults.Count == 0) return read;
        throw new Problem(
            ProblemCode.NotVerified, $"the bundles of {folder} have {FormatFault.Words(faults.Count)}",
            "nothing has been published", "correct them; docs/formats/bundle.md describes every key")
        { Details = [.. faults.Select(fault => fault.ToString())] }.ToException();
    }

    private static void Check(
        string file, Bundle bundle, Dictionary<string, Bundle> bundles, CardOffers offers, List<FormatFault> faults)
    {
        foreach (var below in bundle.BuildsOn.Where(below => !below.Place.Contains(':', StringComparison.Ordinal)))
        {
            if (!bundles.ContainsKey(below.Place.Replace(Bundle.FileEnding, "", StringComparison.Ordinal)))
                faults.Add(new FormatFault(file, below.Line, "builds_on", $"there is no bundle {below.Place} beside it"));
        }

        var others = bundle.Catalogues.Select(catalogue => catalogue.Name).ToHashSet();
        foreach (var app in bundle.Apps.Where(app => app.Reference.Catalogue is not { } from || !others.Contains(from)))
        {
            var entry = app with { Reference = app.Reference with { Catalogue = null }, When = null };
            var plans = Platforms.Select(platform => new Planner(new MachineState(app.Platform ?? platform, []), offers)
                .Equip(new Bundle { Apps = [entry] }).Items).ToList();
            if (plans.Exists(items => items.All(item => item.Action != PlanAction.Cannot))) continue;
            faults.Add(new FormatFault(
                file, app.Line, "apps",
                $"{app.Reference} cannot be installed: {plans[0].First(item => item.Action == PlanAction.Cannot).Note}"));
        }
    }
}
