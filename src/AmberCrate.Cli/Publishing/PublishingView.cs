using AmberCrate.Cli.Tables;
using AmberCrate.Cli.Terminal;
using AmberCrate.Cli.Texts;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Trust;
using AmberCrate.Engine.Publishing;
using AmberCrate.Engine.Trust;

namespace AmberCrate.Cli.Publishing;

/// <summary>Shows what a maintainer has published, signed or mirrored.</summary>
internal static class PublishingView
{
    public static void ShowSigned(Output output, string folder, Signing signing)
    {
        var names = signing.Published.Distinct().ToList();
        if (output.IsJson)
        {
            output.Json(new SignedDocument(folder, names, Documents(signing.Waiting)));
            return;
        }

        if (names.Count > 0) output.Line($"Published {string.Join(", ", names)} in ", new Cell(folder, Tone.Strong));
        else if (signing.Waiting.Count == 0) output.Line($"Nothing ends soon in {folder}.");
        ShowWaiting(output, folder, signing.Waiting);
    }

    /// <summary>Shows what a maintainer is about to sign.</summary>
    public static void ShowPrepared(Output output, IReadOnlyList<PreparedChange> changes)
    {
        if (output.IsJson) return;
        foreach (var change in changes)
        {
            output.Line(new Cell($"{change.Role} {change.Version}", Tone.Strong), change.Changes.Count == 0
                ? "  the same as before, for a longer time or with other signatures"
                : "");
            foreach (var line in change.Changes) output.Line($"  {line}");
        }
    }

    /// <summary>Says what lacks signatures, and how to give them.</summary>
    private static void ShowWaiting(Output output, string folder, IReadOnlyList<WaitingRole> waiting)
    {
        foreach (var role in waiting)
            output.Line(new Cell(
                role.Signatures < role.Needed
                    ? $"{role.Name} {role.Version} waits: {role.Signatures} of {role.Needed} signatures"
                    : $"{role.Name} {role.Version} is signed, and follows when the rest is",
                Tone.Attention));
        if (waiting.Count == 0) return;
        output.Line("Machines go on reading what was published before.");
        output.Next(waiting.Where(role => role.Signatures < role.Needed).All(role => role.Name is "snapshot" or "timestamp")
            ? NextCommand.Create("catalogue renew", folder, "--keys", "FOLDER-OF-THE-ONLINE-KEY")
            : NextCommand.Create("catalogue sign", folder, "--keys", "FOLDER-OF-ANOTHER-KEY"));
    }

    private static List<WaitingDocument> Documents(IEnumerable<WaitingRole> waiting) =>
        [.. waiting.Select(role => new WaitingDocument(role.Name, role.Version, role.Signatures, role.Needed))];

    public static void ShowMirrored(Output output, MirrorResult result)
    {
        if (output.IsJson) output.Json(new MirroredDocument(result.Folder, result.Fetched, result.Size, result.Kept));
        else output.Line(
            $"Fetched {Words.Count(result.Fetched, "file")} ({Words.Size(result.Size)}), {result.Kept} were there, in ",
            new Cell(result.Folder, Tone.Strong));
    }

    public static void ShowKeys(Output output, IReadOnlyList<(string Name, TrustKey Key)> keys)
    {
        if (output.IsJson)
        {
            output.Json(new KeysDocument(
                [.. keys.Select(key => new KeyDocument(key.Name, key.Key.Id, key.Key.Type, key.Key.Public))]));
            return;
        }

        var table = new TextTable(Shapes.Keys);
        foreach (var (name, key) in keys) table.Add(new Cell(name, Tone.Strong), key.Type, key.Id);
        output.Table(table);
    }

    public static void ShowBuilt(Output output, PublishResult result)
    {
        var (apps, parts, size) =
            (result.Document.Apps, result.Document.Parts.Count, result.Document.Parts.Sum(part => part.Size));
        if (output.IsJson) output.Json(new PublishedDocument(
            result.Path, apps, parts, size, result.Pages, result.DoPagesWait, result.WithoutOthers, result.Root?.Hex,
            Documents(result.Waiting), result.Pruned));
        else output.Line(
            $"{(result.Waiting.Count > 0 ? "Prepared" : "Published")} {Words.Count(apps, "app")} in "
                + $"{Words.Count(parts, "part")} ({Words.Size(size)}) to ",
            new Cell(result.Folder, Tone.Strong));
        if (output.IsJson) return;
        if (result.Document.Popularity is { } popularity)
            output.Line(new Cell($"popularity counted on {Words.Count(popularity.Machines, "machine")}", Tone.Quiet));
        if (result.Root is { } root && result.Waiting.Count == 0)
            output.Line(new Cell($"signed under the root {root}", Tone.Quiet));
        if (result.Pages > 0)
            output.Line(new Cell(
                $"{Words.Count(result.Pages, "page")} for a browser; the first is {result.Folder}/index.html", Tone.Quiet));
        if (result.WithoutOthers is { } why)
            output.Line(new Cell($"the apps that were left to others are not on the pages: {why}", Tone.Attention));
        if (result.DoPagesWait)
            output.Line(new Cell(
                "the pages stay as they are; when everybody has signed, build again to renew them", Tone.Attention));
        foreach (var path in result.Pruned) output.Line($"  removed {path}");
        ShowWaiting(output, result.Folder, result.Waiting);
    }
}
