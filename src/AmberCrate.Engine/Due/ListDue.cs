using AmberCrate.Core.Due;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Requirements;
using AmberCrate.Engine.Listing;
using AmberCrate.Engine.Observing;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Due;

/// <summary>Says what is outdated, and by how much.</summary>
/// <param name="session">The session.</param>
public sealed class ListDue(Session session)
{
    /// <summary>Compares every installed app of the scope, the current ones included.</summary>
    /// <param name="words">Only apps whose id or name has these words.</param>
    /// <param name="metrics">The file into which metrics are written; null for none.</param>
    /// <param name="cancel">Cancels the operation.</param>
    /// <exception cref="ProblemException">The machine cannot be read, or the file not be written.</exception>
    public async Task<ListResult> RunAsync(IReadOnlyList<string> words, string? metrics, CancellationToken cancel)
    {
        using var station = await new RootOpener(session).ToReadFreshAsync(cancel);
        var machine = station.Apps.ReadWithRealVersions(cancel);
        var entries = new AppMarks(station.Layout, station.Apps.Inspector, machine).Mark(
            HeldUpgrades.MarkAll(machine, station.Catalogues.Offers()));
        if (metrics is not null)
            MetricsFile.Write(
                metrics, entries, station.Catalogues.Freshness(), station.Records.Runs(1) is [var last] ? last : null);
        entries = [.. entries.Where(item => ListApps.Has(item.Entry.App, words))];
        var (here, offers) = (new SystemPackageOverlap(session), station.Catalogues.Offers());
        entries = [.. entries.Select(item => item.Entry.State == DueState.Current ? item : item with
        {
            AlsoHere = offers.Find(item.Entry.App.Id).Where(offer => offer.Catalogue == item.Entry.App.Catalogue)
                .Select(offer => here.Find(offer.Card)).FirstOrDefault() ?? [],
            Lacks = FindLacks(item.Entry, station.Placing.System),
        })];
        ListApps.RequireSome(entries, new ListRequest { Words = words });
        return new ListResult(station.Layout.Scope, entries, station.Catalogues.Freshness()) { Today = session.Today };
    }

    private static IReadOnlyList<SystemLack> FindLacks(DueEntry entry, SystemCheck system) =>
        entry is { State: DueState.Due, Available: { } available }
            ? system.FindLacks(available.Offer.Card.RequirementsOf(available.Release) ?? [], available.Delivery.Platform)
            : [];
}
