using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Searching;

/// <summary>Lists names that a shell may propose. The scripts of shells do not show an error.</summary>
/// <param name="session">The session.</param>
public sealed class ListNames(Session session)
{
    private const int Most = 500;

    /// <summary>Ids of apps that catalogues offer, in order, as many as are useful.</summary>
    /// <param name="beginning">How they begin.</param>
    public IReadOnlyList<string> Offered(string beginning)
    {
        using var station = new RootOpener(session).ToRead();
        return station.Cache.IdsFrom(beginning, station.Catalogues.Offers().Catalogues, Most);
    }

    /// <summary>Ids of installed apps.</summary>
    /// <param name="beginning">How they begin.</param>
    public IReadOnlyList<string> Installed(string beginning)
    {
        using var station = new RootOpener(session).ToRead();
        return Beginning(station.Records.Apps().Select(app => app.Id.Text), beginning);
    }

    /// <summary>Names of catalogues.</summary>
    /// <param name="beginning">How they begin.</param>
    public IReadOnlyList<string> Catalogues(string beginning)
    {
        using var station = new RootOpener(session).ToRead();
        return Beginning(station.Records.Catalogues().Select(catalogue => catalogue.Name.Text), beginning);
    }

    private static List<string> Beginning(IEnumerable<string> names, string beginning) =>
        [.. names.Where(name => name.StartsWith(beginning, StringComparison.Ordinal)).Order(StringComparer.Ordinal)];
}
