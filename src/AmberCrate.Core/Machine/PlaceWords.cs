using AmberCrate.Core.Values;

namespace AmberCrate.Core.Machine;

/// <summary>The words for <see cref="PlaceKind"/>, in records.</summary>
public static class PlaceWords
{
    /// <summary>A word for each kind.</summary>
    public static WordTable<PlaceKind> Kinds { get; } = new(
        (PlaceKind.Command, "command"), (PlaceKind.DesktopEntry, "desktop-entry"), (PlaceKind.Icon, "icon"),
        (PlaceKind.MimeType, "mime-type"),
        (PlaceKind.ManualPage, "manual-page"), (PlaceKind.Completion, "completion"), (PlaceKind.Font, "font"),
        (PlaceKind.Autostart, "autostart"));
}
