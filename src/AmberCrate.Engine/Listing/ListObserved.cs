using AmberCrate.Core.Machine;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Searching;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Listing;

/// <summary>Lists software that others have put on the machine.</summary>
/// <param name="session">The session.</param>
public sealed class ListObserved(Session session)
{
    /// <summary>Looks for software that others installed.</summary>
    /// <param name="request">Which software, by words and catalogue.</param>
    /// <param name="cancel">Cancels the operation.</param>
    /// <exception cref="ProblemException">Nothing fits the words.</exception>
    public async Task<ObservedResult> RunAsync(ListRequest request, CancellationToken cancel)
    {
        using var station = await new RootOpener(session).ToReadFreshAsync(cancel);
        var observed = new ObservedApps(session, station.Layout, station.Other, station.Apps, station.Catalogues);
        var all = observed.Match(observed.Find(cancel), cancel);
        List<ObservedMatch> shown = [.. all.Where(match => Has(match, request.Words)
            && (request.Catalogue is null || match.Catalogue == request.Catalogue))
            .OrderBy(match => match.Catalogue is null)
            .ThenBy(match => match.Observed is { Kind: ObservedKind.SystemPackage, DesktopIds.Count: 0 })];
        if (shown.Count == 0 && request.IsNarrow)
            throw new Problem(
                ProblemCode.NothingMatched,
                request.Words.Count > 0
                    ? $"no software that others put here has \"{string.Join(' ', request.Words)}\" in its name"
                    : "no software that others put here is recognised",
                request.Catalogue is { } only ? $"only software that {only} knows was looked for" : "",
                remedy: NextCommand.Create("list", "--observed")).ToException();
        return new ObservedResult(shown, station.Catalogues.Freshness());
    }

    private static bool Has(ObservedMatch match, IReadOnlyList<string> words)
    {
        var text = words.Count == 0 ? "" : SearchText.Squash($"{match.Observed.Name} {match.Observed.Title} {match.App}");
        return words.All(word => text.Contains(SearchText.Squash(word), StringComparison.Ordinal));
    }
}
