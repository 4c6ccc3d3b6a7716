using AmberCrate.Core.Machine;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Searching;

namespace AmberCrate.Engine.Operations;

/// <summary>Lists what is on a machine.</summary>
/// <param name="session">The session.</param>
public sealed class ListApps(Session session)
{
    /// <summary>Does it.</summary>
    /// <param name="words">Only apps whose id or name holds these words.</param>
    /// <param name="cancel">Stops.</param>
    public async Task<ListResult> RunAsync(IReadOnlyList<string> words, CancellationToken cancel)
    {
        var opening = new Opening(session);
        using var station = await opening.ToReadFreshAsync(cancel);
        using var other = opening.OtherToo(station);
        List<ScopedEntry> entries = [.. new[] { station, other }.OfType<Workstation>()
            .SelectMany(
                one => DueEntry.AllSettled(one.State(), one.Offers()).Select(entry => new ScopedEntry(one.Layout.Scope, entry)))
            .Where(item => Has(item.Entry.App, words))
            .OrderBy(item => item.Entry.App.Id.Text, StringComparer.Ordinal)];
        RequireSome(entries, words);
        var inBothScopes = other is null ? [] : InBothScopes(entries, other);
        return new ListResult(station.Layout.Scope, entries, station.Freshness())
        {
            OtherFreshness = other?.Freshness(), InBothScopes = inBothScopes,
            FirstOnPath = inBothScopes.Count > 0 ? station.Other.FirstOnPath(station.Layout, session.Host.SearchPath) : null,
        };
    }

    /// <summary>Says that words fit no app, so that an empty list is not taken for an empty machine.</summary>
    /// <exception cref="ProblemException">They fit none.</exception>
    internal static void RequireSome(IReadOnlyCollection<ScopedEntry> entries, IReadOnlyList<string> words)
    {
        if (entries.Count > 0 || words.Count == 0) return;
        throw new Problem(
            ProblemCode.NothingMatched, $"no installed app has \"{string.Join(' ', words)}\" in its id or name",
            remedy: $"{NextCommand.Of("list")} shows all").ToException();
    }

    /// <summary>Whether the id or name of an app has these words.</summary>
    internal static bool Has(InstalledApp app, IReadOnlyList<string> words)
    {
        var text = words.Count == 0 ? "" : SearchText.Squash($"{app.Id} {app.Name}");
        return words.All(word => text.Contains(SearchText.Squash(word), StringComparison.Ordinal));
    }

    private static List<InstalledApp> InBothScopes(List<ScopedEntry> entries, Workstation other) => [.. entries
        .GroupBy(item => item.Entry.App.Id)
        .Where(group => group.Count() > 1)
        .SelectMany(group => group.Where(item => item.Scope == other.Layout.Scope))
        .Select(item => item.Entry.App)];
}
