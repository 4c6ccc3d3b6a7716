using AmberCrate.Core.Cards;

namespace AmberCrate.Core.Machine;

/// <summary>Turns what a card says about placing into the list of things to place.</summary>
public static class PlacementList
{
    /// <summary>What a release places.</summary>
    /// <param name="card">The app.</param>
    /// <param name="release">The release.</param>
    /// <param name="commandPath">Tells the absolute path that a command will have.</param>
    /// <param name="shippedText">Reads a desktop entry that came with the app, by its path inside the shelf entry.</param>
    public static IReadOnlyList<PlacedItem> Of(AppCard card, Release release, Func<string, string> commandPath, Func<InsidePath, string> shippedText)
    {
        var placement = card.PlacementOf(release);
        var icon = placement.Icons.Select(placed => placed.Name.Text).FirstOrDefault();
        var items = new List<PlacedItem>();
        items.AddRange(placement.Commands.Select(command => new PlacedItem(PlaceKind.Command, command.Name.Text, command.Path, null)));
        foreach (var entry in placement.DesktopEntries)
        {
            var start = new DesktopEntryStart(commandPath(entry.Command.Text), entry.Arguments, entry.Icon?.Text ?? icon);
            var text = entry.Path is null ? DesktopEntryText.Compose(card, start) : DesktopEntryText.Adapt(shippedText(entry.Path), start);
            items.Add(new PlacedItem(PlaceKind.DesktopEntry, $"{entry.Name}.desktop", null, text));
        }

        items.AddRange(placement.Icons.Select(placed => new PlacedItem(PlaceKind.Icon, IconName(placed), placed.Path, null)));
        return items;
    }

    /// <summary>The path of an icon inside the hicolor theme, after the Icon Theme specification.</summary>
    public static string IconName(PlacedIcon icon)
    {
        var name = icon.Size == "symbolic" && !icon.Name.Text.EndsWith("-symbolic", StringComparison.Ordinal) ? $"{icon.Name}-symbolic" : icon.Name.Text;
        return $"{icon.Size}/apps/{name}{icon.Path.Text[icon.Path.Text.LastIndexOf('.')..]}";
    }
}
