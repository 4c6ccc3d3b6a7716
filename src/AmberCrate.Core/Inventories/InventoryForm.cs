using AmberCrate.Core.Values;

namespace AmberCrate.Core.Inventories;

/// <summary>As what a machine is written down.</summary>
public enum InventoryForm
{
    /// <summary>A bundle.</summary>
    Bundle,

    /// <summary>One reference a line.</summary>
    List,

    /// <summary>A table for spreadsheets, RFC 4180.</summary>
    Csv,

    /// <summary>A POSIX shell script that installs the same.</summary>
    Script,

    /// <summary>CycloneDX 1.6, JSON.</summary>
    CycloneDx,

    /// <summary>SPDX 2.3, JSON.</summary>
    Spdx,
}

/// <summary>The words for <see cref="InventoryForm"/>, on the command line.</summary>
public static class InventoryWords
{
    /// <summary>A word for each form.</summary>
    public static WordTable<InventoryForm> Forms { get; } = new(
        (InventoryForm.Bundle, "bundle"), (InventoryForm.List, "list"), (InventoryForm.Csv, "csv"),
        (InventoryForm.Script, "script"), (InventoryForm.CycloneDx, "cyclonedx"), (InventoryForm.Spdx, "spdx"));
}
