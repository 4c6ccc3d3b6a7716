using AmberCrate.Core.Machine;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Catalogues;

namespace AmberCrate.Engine.Sessions;

/// <summary>
/// An app belongs to the catalogue that it came from: its name here and its location. A catalogue of the same name at another
/// location gets the upgrades of such apps only where the user says so.
/// </summary>
/// <param name="apps">What is installed.</param>
/// <param name="allowed">The names of the catalogues that the user has allowed.</param>
internal sealed class CatalogueTakeOver(InstalledApps apps, IReadOnlyList<string> allowed)
{
    /// <summary>The option that allows it.</summary>
    private const string Option = "--take-over";

    /// <summary>The ids of apps that a catalogue would get from another one.</summary>
    public IReadOnlyList<string> AppsOf(RegisteredCatalogue catalogue) =>
        [.. FromElsewhere(catalogue).Select(app => app.Id.Text)];

    /// <summary>Refuses a catalogue that would get apps of another one, unless the user has said that it may.</summary>
    /// <exception cref="ProblemException">It would.</exception>
    public void Require(RegisteredCatalogue catalogue)
    {
        if (allowed.Contains(catalogue.Name.Text) || FromElsewhere(catalogue) is not { Count: > 0 } taken) return;
        throw new Problem(
            ProblemCode.Refused,
            $"the catalogue {catalogue.Name} at {catalogue.Location} would take over apps that came from another one",
            $"{string.Join(", ", taken.Select(app => app.Id))} came from {taken[0].CatalogueLocation}; nothing has been changed",
            $"choose another name; or, where it is the same catalogue at a new place, add {Option} {catalogue.Name}")
                .ToException();
    }

    private List<InstalledApp> FromElsewhere(RegisteredCatalogue catalogue) => [.. apps.Read().Apps
        .Where(app => app.Catalogue == catalogue.Name && app.CatalogueLocation is { } from && from != catalogue.Location)];
}
