using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Plans;
using AmberCrate.Engine.Observing;

namespace AmberCrate.Engine.Sessions;

/// <summary>Says whether the machine has apps as packages of its system too.</summary>
/// <param name="session">The session.</param>
internal sealed class SystemPackageOverlap(Session session)
{
    private ILookup<string, ObservedApp>? _packages;

    /// <summary>The system's packages that a card names as the same software.</summary>
    public IReadOnlyList<ObservedApp> Find(AppCard card)
    {
        if (card.SystemPackages.Count == 0) return [];
        _packages ??= new DpkgStatus(session.Host.SystemRoot).Observe(_ => { }, default)
            .ToLookup(app => app.Name, StringComparer.Ordinal);
        return [.. card.SystemPackages.SelectMany(name => _packages[name]).Distinct()];
    }

    /// <summary>A plan with a note for each app that it installs and that is here as a system's package.</summary>
    public Plan AddNotes(Plan plan) => plan with
    {
        Items = [.. plan.Items.Select(item => item is not { Fetches: true, Installed: null, Offer.Card: var card } ? item
            : item with
            {
                Notes = [.. item.Notes, .. Find(card).Where(other => !item.Notes.Any(note => note.Code == "remains"))
                    .Select(PlanNote.AlsoHere)],
            })],
    };
}
