using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Inventories;

/// <summary>An installed app with what its catalogue says about it.</summary>
/// <param name="App">The app, as its record says.</param>
/// <param name="Card">Its card; null where no catalogue has it any more.</param>
public sealed record InventoryItem(InstalledApp App, AppCard? Card)
{
    /// <summary>Its licence as an SPDX expression; null where nothing tells it.</summary>
    public string? Licence => Card?.Licence;

    /// <summary>Who makes it; null where nothing tells it.</summary>
    public string? Developer => Card?.Developer?.Name;

    /// <summary>
    /// Its Package URL (ECMA-427): type <c>generic</c>, since catalogues are no registry that the standard knows, with the digest
    /// and the address of its file, where it came as one.
    /// </summary>
    public string PackageUrl =>
        $"pkg:generic/{Escaped(App.Id.Text)}@{Escaped(App.Version.Text)}"
        + (App.Files is not [var only] ? "" : $"?checksum=sha256:{only.Sha256.Hex}"
            + (Address.Is(only.Source) ? $"&download_url={Escaped(only.Source)}" : ""));

    private static string Escaped(string text) => Uri.EscapeDataString(text).Replace("%3A", ":", StringComparison.Ordinal);
}
