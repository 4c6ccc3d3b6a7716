using AmberCrate.Core.Planning;

namespace AmberCrate.Engine.Operations;

/// <summary>Tells what is outdated, and by how much.</summary>
/// <param name="session">The session.</param>
public sealed class ListDue(Session session)
{
    /// <summary>Does it: every installed app of the scope, the current ones included.</summary>
    /// <param name="words">Only apps whose id or name has these words.</param>
    /// <param name="cancel">Stops.</param>
    public async Task<ListResult> RunAsync(IReadOnlyList<string> words, CancellationToken cancel)
    {
        using var station = await new Opening(session).ToReadFreshAsync(cancel);
        List<ScopedEntry> entries = [.. DueEntry.AllSettled(station.State(), station.Offers())
            .Where(entry => ListApps.Has(entry.App, words))
            .Select(entry => new ScopedEntry(station.Layout.Scope, entry))];
        ListApps.RequireSome(entries, words);
        return new ListResult(station.Layout.Scope, entries, station.Freshness());
    }
}
