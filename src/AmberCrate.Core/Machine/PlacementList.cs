using AmberCrate.Core.Cards;
using AmberCrate.Core.Placements;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Machine;

/// <summary>Turns what a card says about placing into the list of things to place.</summary>
public static class PlacementList
{
    /// <summary>What a release places.</summary>
    /// <param name="card">The app.</param>
    /// <param name="release">The release.</param>
    /// <param name="commandPath">Gives the absolute path that a command will have.</param>
    /// <param name="shippedText">Reads a desktop entry that came with the app, by its path inside the shelf entry.</param>
    public static IReadOnlyList<PlacedItem> List(
        AppCard card, Release release, Func<string, string> commandPath, Func<InsidePath, string> shippedText)
    {
        var placement = card.PlacementOf(release);
        var icon = placement.Icons.Select(placed => placed.Name.Text).FirstOrDefault();
        var texts = new Queue<string>(
        [
            .. placement.DesktopEntries.Select(entry =>
            {
                var start = new DesktopEntryStart(commandPath(entry.Command.Text), entry.Arguments, entry.Icon?.Text ?? icon);
                return entry.Path is null
                    ? DesktopEntryText.Compose(card, start)
                    : DesktopEntryText.Adapt(shippedText(entry.Path), start);
            }),
            .. placement.Autostart.Select(entry => DesktopEntryText.ComposeAutostart(
                card, new DesktopEntryStart(commandPath(entry.Command.Text), entry.Arguments, icon))),
        ]);
        return [.. Places(card.Id, placement).Select(
            place => new PlacedItem(place.Kind, place.Name, place.Source, place.Source is null ? texts.Dequeue() : null))];
    }

    /// <summary>Where everything goes that a card places.</summary>
    /// <returns>The folder, the path inside it, and the file of the shelf entry; null for what is written from the card or taken
    /// over.</returns>
    public static IReadOnlyList<(PlaceKind Kind, string Name, InsidePath? Source)> Places(AppId id, Placement placement)
    {
        var places = new List<(PlaceKind, string, InsidePath?)>();
        foreach (var command in placement.Commands)
            places.Add((PlaceKind.Command, command.Name.Text, placement.StartOf(command)));
        foreach (var entry in placement.DesktopEntries) places.Add((PlaceKind.DesktopEntry, $"{entry.Name}.desktop", null));
        foreach (var icon in placement.Icons) places.Add((PlaceKind.Icon, IconName(icon), icon.Path));
        foreach (var type in placement.MimeTypes) places.Add((PlaceKind.MimeType, $"{type.Name}.xml", type.Path));
        foreach (var page in placement.ManualPages)
            places.Add((PlaceKind.ManualPage, $"man{ManualPageName.SectionOf(page.Name)}/{page.Name}", page.Path));
        foreach (var completion in placement.Completions)
            places.Add((PlaceKind.Completion, CompletionName(completion), completion.Path));
        foreach (var font in placement.Fonts) places.Add((PlaceKind.Font, $"{id}/{font.Name}", font.Path));
        foreach (var entry in placement.Autostart) places.Add((PlaceKind.Autostart, $"{entry.Name}.desktop", null));
        return places;
    }

    /// <summary>The kinds of what a card places.</summary>
    public static IEnumerable<PlaceKind> KindsOf(Placement placement)
    {
        if (placement.Commands.Count > 0) yield return PlaceKind.Command;
        if (placement.DesktopEntries.Count > 0) yield return PlaceKind.DesktopEntry;
        if (placement.Icons.Count > 0) yield return PlaceKind.Icon;
        if (placement.MimeTypes.Count > 0) yield return PlaceKind.MimeType;
        if (placement.ManualPages.Count > 0) yield return PlaceKind.ManualPage;
        if (placement.Completions.Count > 0) yield return PlaceKind.Completion;
        if (placement.Fonts.Count > 0) yield return PlaceKind.Font;
        if (placement.Autostart.Count > 0) yield return PlaceKind.Autostart;
    }

    /// <summary>The path of an icon inside the hicolor theme, after the Icon Theme specification.</summary>
    public static string IconName(PlacedIcon icon)
    {
        var name = icon.Size == "symbolic" && !icon.Name.Text.EndsWith("-symbolic", StringComparison.Ordinal)
            ? $"{icon.Name}-symbolic"
            : icon.Name.Text;
        return $"{icon.Size}/apps/{name}{icon.Path.Text[icon.Path.Text.LastIndexOf('.')..]}";
    }

    /// <summary>Where each shell looks for completions, below a folder for data.</summary>
    private static string CompletionName(PlacedCompletion completion) => completion.Shell switch
    {
        CompletionShell.Bash => $"bash-completion/completions/{completion.Command}",
        CompletionShell.Zsh => $"zsh/site-functions/_{completion.Command}",
        CompletionShell.Fish => $"fish/vendor_completions.d/{completion.Command}.fish",
    };
}
