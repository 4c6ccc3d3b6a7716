using AmberCrate.Cli.Terminal;
using AmberCrate.Cli.Texts;
using AmberCrate.Core.Catalogues;
using AmberCrate.Engine.Cataloguing;

namespace AmberCrate.Cli.Cataloguing;

/// <summary>The data and the trust of a catalogue, as JSON.</summary>
internal sealed record CatalogueAboutDocument(
    string Name, string Location, string? Title, string? Refreshed, string Trust, string? Root, IReadOnlyList<string> Mirrors,
    IReadOnlyList<RoleDocument> Roles,
    int Format = DocumentFormat.Number)
{
    public static CatalogueAboutDocument FromCatalogue(CatalogueAbout about) => new(
        about.Catalogue.Name.Text, about.Catalogue.Location, about.State?.Title,
        about.State is { } state ? PlainText.Time(state.Refreshed) : null,
        about.Catalogue.Trust.Root is null ? about.Catalogue.Trust.Text : "signed", about.Catalogue.Trust.Root?.Hex,
        about.Catalogue.Mirrors,
        [
            .. about.Trust?.Roles.Select(role =>
            {
                var rule = about.Trust.RuleOf(role);
                return new RoleDocument(
                    role.Name, role.Version, PlainText.Time(role.Expires), role.EndsSoon(about.Now), rule.Threshold, rule.KeyIds,
                    role.Delegation is { } left ? [.. DelegatedApps.PatternsOf(left)] : null);
            }) ?? [],
        ]);
}
