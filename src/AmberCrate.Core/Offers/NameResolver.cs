using AmberCrate.Core.Machine;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Searching;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Offers;

/// <summary>
/// Finds out which app a reference means. It never guesses: a name fits exactly one app or is refused with candidates.
/// </summary>
public static class NameResolver
{
    /// <summary>Whether a reference means something here: an installed app, or an offered one.</summary>
    public static bool Knows(AppReference reference, IOffers offers, MachineState machine) =>
        machine.Named(reference.Name).Count > 0
        || (reference.Id is { } id && From(reference, offers.Find(id)).Count > 0)
        || offers.Named(SearchText.Squash(reference.Name)).Any(other => From(reference, offers.Find(other)).Count > 0);

    /// <summary>The offers of the app that a reference means, in order of preference.</summary>
    /// <exception cref="ProblemException">No app fits, or several do.</exception>
    public static IReadOnlyList<Offer> Offered(AppReference reference, IOffers offers)
    {
        if (reference.Catalogue is { } paused && offers.Paused.Contains(paused))
            throw new Problem(
                ProblemCode.NothingMatched, $"the catalogue {paused} is paused",
                remedy: NextCommand.Create("catalogue resume", paused.Text)).ToException();
        if (reference.Catalogue is { } wanted && !offers.Catalogues.Contains(wanted))
        {
            throw new Problem(
                ProblemCode.NothingMatched,
                $"there is no catalogue \"{wanted}\"",
                remedy: offers.Catalogues.Count == 0
                    ? Advice.Combine($"add one: {NextCommand.Create("catalogue add", "NAME", "LOCATION")}")
                    : $"the catalogues are: {string.Join(", ", offers.Catalogues)}").ToException();
        }

        var found = reference.Id is { } id ? From(reference, offers.Find(id)) : [];
        if (found.Count > 0) return found;
        var named = offers.Named(SearchText.Squash(reference.Name))
            .Select(other => From(reference, offers.Find(other)))
            .Where(list => list.Count > 0)
            .ToList();
        return named.Count switch
        {
            1 => named[0],
            0 => throw Unknown(reference, offers),
            _ => throw Ambiguous(
                reference.Name, named.Select(list => $"{list[0].Card.Id}  {list[0].Card.Name}: {list[0].Card.Summary}")),
        };
    }

    /// <summary>
    /// The installed app that a reference means, if no catalogue that would do offers it: it is there all
    /// the same.
    /// Null where it is another case.
    /// </summary>
    public static InstalledApp? Orphan(AppReference reference, IOffers offers, MachineState machine)
    {
        if (reference.Id is { } id && From(reference, offers.Find(id)).Count > 0) return null;
        if (machine.Named(reference.Name) is not [var only] || (reference.Catalogue is { } from && from != only.Catalogue)
            || From(reference, offers.Find(only.Id)).Count > 0) return null;
        return only.Id == reference.Id || offers.Named(SearchText.Squash(reference.Name)).Count == 0 ? only : null;
    }

    /// <summary>
    /// The app that a reference means: the installed one, and the offers that it may change to. Either can be missing.
    /// </summary>
    /// <exception cref="ProblemException">No app fits, several do, or it is installed from another catalogue than is
    /// named.</exception>
    internal static (InstalledApp? Installed, IReadOnlyList<Offer> Found) Meant(
        AppReference reference, IOffers offers, MachineState machine)
    {
        if (Orphan(reference, offers, machine) is { } orphan) return (orphan, []);
        var found = Offered(reference, offers);
        var installed = machine.Find(found[0].Card.Id);
        if (reference.Catalogue is { } wanted) CatalogueChange.RequireNone(installed, wanted);
        return (installed, CatalogueChange.Allowed(installed, found));
    }

    /// <summary>The installed app that a name means.</summary>
    /// <exception cref="ProblemException">No installed app fits, or several do.</exception>
    public static InstalledApp Installed(string name, MachineState machine)
    {
        var named = machine.Named(name);
        if (named.Count > 1) throw Ambiguous(name, named.Select(app => $"{app.Id}  {app.Name} {app.Version}"));
        if (named.Count == 1) return named[0];
        var nearest = NameDistance.Nearest(name, machine.Apps.Select(app => app.Id.Text), 5).ToList();
        throw new Problem(
            ProblemCode.NothingMatched,
            $"no installed app is called \"{name}\"",
            remedy: nearest.Count == 0
                ? Advice.Combine($"{NextCommand.Create("list")} shows what is installed")
                : "did you mean one of these?")
        { Details = [.. nearest] }.ToException();
    }

    private static IReadOnlyList<Offer> From(AppReference reference, IReadOnlyList<Offer> offers) =>
        reference.Catalogue is { } only ? [.. offers.Where(offer => offer.Catalogue == only)] : offers;

    private static ProblemException Unknown(AppReference reference, IOffers offers)
    {
        if (offers.Catalogues.Count == 0 && offers.Paused.Count == 0 && offers.ForAllUsers.Count > 0)
            return new Problem(
                ProblemCode.NothingMatched, $"no app is called \"{reference.Name}\"",
                $"you have no catalogue of your own; those for all users are not asked: {string.Join(", ", offers.ForAllUsers)}",
                $"add {CallOptions.AllUsersOption} to install from them").ToException();
        if (offers.Catalogues.Count == 0 && offers.Paused.Count == 0)
            return new Problem(
                ProblemCode.NothingMatched, $"no app is called \"{reference.Name}\"", "no catalogue has been added yet",
                NextCommand.Create("catalogue add", "NAME", "LOCATION")).ToException();
        if (offers.Catalogues.Count == 0)
            return new Problem(
                ProblemCode.NothingMatched, $"no app is called \"{reference.Name}\"", "every catalogue is paused",
                NextCommand.Create("catalogue resume", offers.Paused[0].Text)).ToException();
        var asked = reference.Catalogue is { } only ? [only] : offers.Catalogues;
        var where = $"{(asked.Count == 1 ? "catalogue" : "catalogues")} {string.Join(", ", asked)}";
        var closest = offers.Closest(reference.Name)
            .Select(offers.Find)
            .Where(list => list.Count > 0)
            .Select(list => $"{list[0].Card.Id}  {list[0].Card.Name}: {list[0].Card.Summary}")
            .ToList();
        return new Problem(
            ProblemCode.NothingMatched,
            $"no app is called \"{reference.Name}\"",
            $"searched the {where}{Listed("never refreshed", offers.Unfetched)}{Listed("paused", offers.Paused)}",
            closest.Count > 0 ? "did you mean one of these?" : offers.Unfetched.Count > 0
                ? Advice.Combine($"{NextCommand.Create("catalogue refresh")}")
                : Advice.Combine($"{NextCommand.Create("search", reference.Name)} searches summaries and keywords too"))
        { Details = [.. closest] }.ToException();
    }

    private static string Listed(string what, IReadOnlyList<CatalogueName> names) =>
        names.Count == 0 ? "" : $"; {what}: {string.Join(", ", names)}";

    private static ProblemException Ambiguous(string name, IEnumerable<string> candidates) => new Problem(
        ProblemCode.Ambiguous,
        $"\"{name}\" fits more than one app",
        remedy: "name it by its id")
    { Details = [.. candidates] }.ToException();
}
