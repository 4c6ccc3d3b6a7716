using AmberCrate.Core.Bundles;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Records;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Bundling;

/// <summary>Fixes what a bundle installs: versions and digests, on a machine that has nothing.</summary>
/// <param name="session">The clock.</param>
/// <param name="records">What this machine remembers of catalogues.</param>
/// <param name="catalogues">What is offered.</param>
internal sealed class BundleSealing(Session session, RecordStore records, KnownCatalogues catalogues)
{
    /// <summary>A bundle sealed for a platform, and what it takes.</summary>
    /// <exception cref="ProblemException">No catalogue offers one of its entries.</exception>
    public async Task<(Bundle Bundle, Plan Plan)> SealAsync(
        OpenedBundle opened, Platform platform, CancellationToken cancel)
    {
        var (plan, _) = await PlanAsync(opened.Flat.Bundle, platform, cancel);
        if (plan.Items.Where(item => !item.Fetches).ToList() is { Count: > 0 } missing)
            throw new Problem(
                ProblemCode.NothingMatched, $"{opened.Name} cannot be sealed",
                $"{missing.Count} of its entries are not offered; nothing has been written",
                NextCommand.Create("bundle check", opened.Name))
            { Details = [.. missing.Select(item => Advice.Combine($"{item.Id}: {item.Note}"))] }.ToException();
        var states = catalogues.All().ToDictionary(one => one.Name, catalogues.StateOf);
        var known = opened.Flat.Bundle.Catalogues.Select(one => one.Name).ToHashSet();
        var bundle = opened.Flat.Bundle with
        {
            Catalogues =
            [
                .. opened.Flat.Bundle.Catalogues, .. catalogues.ForBundle().Where(one => !known.Contains(one.Name)),
            ],
        };
        return (BundleSeal.Seal(bundle, plan, session.Today, name => states.GetValueOrDefault(name) is { } state
            ? DateOnly.FromDateTime(state.Refreshed.UtcDateTime)
            : session.Today), plan);
    }

    /// <summary>The plan of a bundle on a machine that has nothing.</summary>
    public async Task<(Plan Plan, CachedOffers Offers)> PlanAsync(
        Bundle bundle, Platform platform, CancellationToken cancel)
    {
        var ofBundle = new BundleCatalogues(records, catalogues);
        var (offers, _) = await ofBundle.OffersAsync(ofBundle.NewOnes(bundle, allowsUnsigned: true), cancel);
        var planner = new Planner(new MachineState(platform, []), offers) { CanRun = _ => true };
        return (planner.Equip(bundle with { Apps = [.. bundle.Apps.Select(app => app with { Pin = null })] }), offers);
    }
}
