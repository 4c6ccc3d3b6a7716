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
        var texts = new Queue<string>(
        [
            .. placement.DesktopEntries.Select(entry =>
            {
                var start = new DesktopEntryStart(commandPath(entry.Command.Text), entry.Arguments, entry.Icon?.Text ?? icon);
                return entry.Path is null ? DesktopEntryText.Compose(card, start) : DesktopEntryText.Adapt(shippedText(entry.Path), start);
            }),
            .. placement.Autostart.Select(entry => DesktopEntryText.ComposeAutostart(card, new DesktopEntryStart(commandPath(entry.Command.Text), entry.Arguments, icon))),
        ]);
        return [.. Places(card.Id, placement).Select(place => new PlacedItem(place.Kind, place.Name, place.Source, place.Source is null ? texts.Dequeue() : null))];
    }

    /// <summary>Where everything goes that a card places.</summary>
    /// <returns>The folder, the path inside it, and the file of the shelf entry; null for what is written from the card or taken over.</returns>
    public static IEnumerable<(PlaceKind Kind, string Name, InsidePath? Source)> Places(AppId id, Placement placement)
    {
        foreach (var command in placement.Commands) yield return (PlaceKind.Command, command.Name.Text, command.Path);
        foreach (var entry in placement.DesktopEntries) yield return (PlaceKind.DesktopEntry, $"{entry.Name}.desktop", null);
        foreach (var icon in placement.Icons) yield return (PlaceKind.Icon, IconName(icon), icon.Path);
        foreach (var type in placement.MimeTypes) yield return (PlaceKind.MimeType, $"{type.Name}.xml", type.Path);
        foreach (var page in placement.ManualPages) yield return (PlaceKind.ManualPage, $"man{SectionOf(page.Name)}/{page.Name}", page.Path);
        foreach (var completion in placement.Completions) yield return (PlaceKind.Completion, CompletionName(completion), completion.Path);
        foreach (var font in placement.Fonts) yield return (PlaceKind.Font, $"{id}/{font.Name}", font.Path);
        foreach (var entry in placement.Autostart) yield return (PlaceKind.Autostart, $"{entry.Name}.desktop", null);
    }

    /// <summary>The section that the name of a manual page ends in, such as 1 for <c>scrim-paint.1.gz</c>; null where it ends in none.</summary>
    public static char? SectionOf(FileName page)
    {
        var name = page.Text.EndsWith(".gz", StringComparison.Ordinal) ? page.Text[..^3] : page.Text;
        var dot = name.LastIndexOf('.');
        return dot > 0 && dot + 1 < name.Length && name[dot + 1] is >= '1' and <= '9' && name[(dot + 2)..].All(char.IsAsciiLetterLower) ? name[dot + 1] : null;
    }

    /// <summary>The path of an icon inside the hicolor theme, after the Icon Theme specification.</summary>
    public static string IconName(PlacedIcon icon)
    {
        var name = icon.Size == "symbolic" && !icon.Name.Text.EndsWith("-symbolic", StringComparison.Ordinal) ? $"{icon.Name}-symbolic" : icon.Name.Text;
        return $"{icon.Size}/apps/{name}{icon.Path.Text[icon.Path.Text.LastIndexOf('.')..]}";
    }

    /// <summary>Where each shell looks for completions, below a folder for data.</summary>
    private static string CompletionName(PlacedCompletion completion) => completion.Shell switch
    {
        CompletionShell.Bash => $"bash-completion/completions/{completion.Command}",
        CompletionShell.Zsh => $"zsh/site-functions/_{completion.Command}",
        _ => $"fish/vendor_completions.d/{completion.Command}.fish",
    };
}
