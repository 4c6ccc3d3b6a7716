using AmberCrate.Core.Due;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Searching;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Listing;

/// <summary>Lists what is on a machine.</summary>
/// <param name="session">The session.</param>
public sealed class ListApps(Session session)
{
    /// <summary>Lists the installed apps that fit the request.</summary>
    /// <param name="request">Which apps, and how.</param>
    /// <param name="cancel">Cancels the operation.</param>
    public async Task<ListResult> RunAsync(ListRequest request, CancellationToken cancel)
    {
        var opening = new RootOpener(session);
        using var station = await opening.ToReadFreshAsync(cancel);
        using var other = opening.OtherToo(station);
        List<ScopedEntry> entries = [.. Ordered(new[] { station, other }.OfType<OpenRoot>()
            .Where(one => request.Scope is null || one.Layout.Scope == request.Scope)
            .SelectMany(one => Entries(one, request, cancel)), request.Order)];
        RequireSome(entries, request);
        var inBothScopes = other is null ? [] : InBothScopes(entries, other.Layout.Scope);
        return new ListResult(station.Layout.Scope, entries, station.Catalogues.Freshness())
        {
            Today = session.Today, OtherFreshness = other?.Catalogues.Freshness(), InBothScopes = inBothScopes,
            FirstOnPath = inBothScopes.Count > 0 ? station.Other.FirstOnPath(station.Layout, session.Host.SearchPath) : null,
        };
    }

    private IEnumerable<ScopedEntry> Entries(OpenRoot station, ListRequest request, CancellationToken cancel)
    {
        var machine = station.Apps.ReadWithRealVersions(cancel);
        var names = station.Cache.LocalNames(
            [.. machine.Apps.Select(app => (app.Id, app.Catalogue))], session.Host.Languages());
        var entries = HeldUpgrades.MarkAll(machine, station.Catalogues.Offers())
            .Where(entry => (Has(entry.App, request.Words) || Has(Named(entry).App, request.Words))
            && (request.Catalogue is null || entry.App.Catalogue == request.Catalogue)
            && (request.Kind is null || entry.App.Kind == request.Kind)).Select(Named).ToList();
        return new AppMarks(station.Layout, station.Apps.Inspector, machine).Mark(entries)
            .Where(item => request.Marks.All(item.Marks.Contains));

        // As the user's language has it. The record keeps the English name: who reads it may be someone else.
        DueEntry Named(DueEntry entry) =>
            names.TryGetValue(entry.App.Id, out var name) ? entry with { App = entry.App with { Name = name } } : entry;
    }

    private static IEnumerable<ScopedEntry> Ordered(IEnumerable<ScopedEntry> entries, ListOrder order)
    {
        var byName = entries.OrderBy(item => item.Entry.App.Id.Text, StringComparer.Ordinal);
        return order switch
        {
            ListOrder.Size => byName.OrderByDescending(item => item.Entry.App.Size ?? 0),
            ListOrder.Installed => byName.OrderByDescending(item => item.Entry.App.InstalledAt),
            ListOrder.Catalogue => byName.OrderBy(item => item.Entry.App.Catalogue.Text, StringComparer.Ordinal),
            ListOrder.Name => byName,
        };
    }

    /// <summary>Says that words fit no app, so that an empty list is not taken for an empty machine.</summary>
    /// <exception cref="ProblemException">They fit none.</exception>
    internal static void RequireSome(IReadOnlyCollection<ScopedEntry> entries, ListRequest request)
    {
        var words = request.Words;
        if (entries.Count > 0 || !request.IsNarrow) return;
        throw new Problem(
            ProblemCode.NothingMatched, request.IsNarrow && words.Count == 0
                ? "no installed app fits these options"
                : $"no installed app has \"{string.Join(' ', words)}\" in its id or name",
            remedy: $"{NextCommand.Create("list")} shows all").ToException();
    }

    /// <summary>Whether the id or name of an app has these words.</summary>
    internal static bool Has(InstalledApp app, IReadOnlyList<string> words)
    {
        var text = words.Count == 0 ? "" : SearchText.Squash($"{app.Id} {app.Name}");
        return words.All(word => text.Contains(SearchText.Squash(word), StringComparison.Ordinal));
    }

    private static List<InstalledApp> InBothScopes(List<ScopedEntry> entries, InstallScope other) => [.. entries
        .GroupBy(item => item.Entry.App.Id)
        .Where(group => group.Count() > 1)
        .SelectMany(group => group.Where(item => item.Scope == other))
        .Select(item => item.Entry.App)];
}
