using AmberCrate.Cli.Documents;
using AmberCrate.Cli.Tables;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Trust;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Cataloguing;
using AmberCrate.Engine.Publishing;
using AmberCrate.Engine.Sessions;
using AmberCrate.Engine.Trust;

namespace AmberCrate.Cli.Views;

/// <summary>Shows catalogues, and what has become of them.</summary>
internal static class CatalogueView
{
    private const int DigestShown = 12;

    public static void ShowAdded(Output output, RefreshResult result)
    {
        if (output.IsJson) output.Json(CataloguesDocument.Of([result], output.Call));
        else output.Line(
            "Added ", new Cell(result.Catalogue.Name.Text, Tone.Strong),
            $": {result.State!.Title}, {Words.Count(result.State.Apps, "app")}");
    }

    public static void ShowRefreshed(Output output, IReadOnlyList<RefreshResult> results)
    {
        if (output.IsJson)
        {
            output.Json(CataloguesDocument.Of(results, output.Call));
            return;
        }

        if (results.Count == 0) output.Line("No catalogue is to be refreshed.");
        foreach (var result in results)
        {
            if (result.Problem is { } problem) ShowFailed(output, result, problem);
            else output.Line(
                new Cell(result.Catalogue.Name.Text, Tone.Strong), $"  {News(result)}, {Words.Count(result.State!.Apps, "app")}");
            foreach (var frozen in result.State?.Frozen ?? [])
                output.Line(new Cell($"  {Words.Frozen(frozen)}", Tone.Attention));
        }
    }

    public static void ShowList(Output output, CatalogueList list)
    {
        if (output.IsJson)
        {
            output.Json(CataloguesDocument.Of(list));
            return;
        }

        if (list.Entries.Count == 0)
        {
            output.Line("No catalogue has been added.");
            output.Next(NextCommand.Of("catalogue add", "NAME", "LOCATION"));
            return;
        }

        var table = new TextTable(Shapes.Catalogues);
        foreach (var entry in list.Entries)
        {
            var (catalogue, state) = entry;
            table.Add(
                new Cell(catalogue.Name.Text, Tone.Strong), state is null ? "" : $"{state.Apps}",
                state is null ? new Cell("never", Tone.Attention) : DataAge.Ago(state.Refreshed, list.Now),
                TrustOf(catalogue.Trust, entry.EndsFirst, list.Now), new Cell(catalogue.IsPaused ? "paused" : "", Tone.Attention),
                catalogue.Location, state?.Title ?? "");
        }

        output.List($"{Words.Count(list.Entries.Count, "catalogue")}, in order of preference", table, "");
    }

    /// <summary>What is believed of a catalogue, in a word or two.</summary>
    private static Cell TrustOf(CatalogueTrust trust, RoleState? first, DateTimeOffset now)
    {
        if (trust == CatalogueTrust.Cards) return new Cell("own cards", Tone.Quiet);
        if (trust.Root is null) return new Cell("not signed", Tone.Attention);
        if (first is null) return new Cell("signed, root missing", Tone.Attention);
        return first.Expires <= now
            ? new Cell($"expired {PlainText.Date(DateOnly.FromDateTime(first.Expires.UtcDateTime))}", Tone.Attention)
            : new Cell(
                $"signed until {PlainText.Date(DateOnly.FromDateTime(first.Expires.UtcDateTime))}",
                first.EndsSoon(now) ? Tone.Attention : Tone.Plain);
    }

    public static void ShowAbout(Output output, CatalogueAbout about)
    {
        if (output.IsJson)
        {
            output.Json(CatalogueAboutDocument.Of(about));
            return;
        }

        var (catalogue, state) = (about.Catalogue, about.State);
        output.Line(new Cell(catalogue.Name.Text, Tone.Strong), state?.Title is { } title ? $"  {title}" : "");
        output.Fact("  location   ", catalogue.Location);
        foreach (var mirror in catalogue.Mirrors) output.Fact("  mirror     ", $"{mirror}");
        output.Fact("  refreshed  ", state is null ? "never" : PlainText.Time(state.Refreshed));
        output.Fact("  trust      ", TrustOf(catalogue.Trust, about.Trust?.EndsFirst, about.Now));
        if (catalogue.Trust.Root is { } root) output.Fact("  root       ", $"{root}, trusted when the catalogue was added");
        foreach (var frozen in state?.Frozen ?? [])
            output.Fact("  attention  ", new Cell(Words.Frozen(frozen), Tone.Attention));
        if (about.Trust is not { } trust) return;
        output.Line();
        var table = new TextTable(Shapes.Roles);
        foreach (var role in trust.Roles)
        {
            var rule = trust.RuleOf(role);
            table.Add(
                new Cell(role.Name, Tone.Strong), $"{role.Version}",
                new Cell(PlainText.Time(role.Expires), role.EndsSoon(about.Now) ? Tone.Attention : Tone.Plain),
                $"{rule.Threshold} of {rule.KeyIds.Count}",
                string.Join(' ', rule.KeyIds.Select(id => id[..DigestShown] + "…")));
        }

        output.Table(table);
        foreach (var delegation in trust.Roles.Select(role => role.Delegation).OfType<Delegation>())
            output.Line(
                new Cell(delegation.Name, Tone.Strong), $" signs {string.Join(", ", DelegatedApps.PatternsOf(delegation))}");
    }

    public static void ShowOffered(Output output, OfferedRoot offered)
    {
        var rule = offered.Root.Roles[TrustRole.Root];
        output.Line(new Cell(offered.Name.Text, Tone.Strong), $" is signed. Its root, version {offered.Root.Version}:");
        output.Line($"  sha256  {offered.Digest}");
        output.Line($"  keys    {rule.Threshold} of these must sign a new root");
        foreach (var id in rule.KeyIds) output.Line($"          {id}");
    }

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
            ? NextCommand.Of("catalogue renew", folder, "--keys", "FOLDER-OF-THE-ONLINE-KEY")
            : NextCommand.Of("catalogue sign", folder, "--keys", "FOLDER-OF-ANOTHER-KEY"));
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

    public static void ShowDropped(Output output, DroppedCatalogue dropped)
    {
        if (output.IsJson)
        {
            output.Json(new DroppedDocument(dropped.Name.Text, dropped.Apps));
            return;
        }

        var rest = dropped.Apps == 0
            ? "."
            : $". {Words.Count(dropped.Apps, "installed app")} came from it: they stay, and get no upgrades.";
        output.Line("Dropped ", new Cell(dropped.Name.Text, Tone.Strong), rest);
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

    private static void ShowFailed(Output output, RefreshResult result, Problem problem)
    {
        output.Line(new Cell($"{result.Catalogue.Name}  not refreshed: ", Tone.Attention), problem.What);
        ErrorView.ShowRest(output, problem);
        foreach (var detail in problem.Details) output.Fact("    ", output.Said(detail));
        output.Line(result.State is { } old
            ? $"  the data of {PlainText.Time(old.Refreshed)} stay in use"
            : "  nothing is known of it yet");
    }

    private static string News(RefreshResult result)
    {
        if (!result.Changed) return "nothing new";
        var parts = $"{result.PartsRead} of {Words.Count(result.PartsInAll, "part")} downloaded";
        var read = result.BundlesRead > 0 ? $", {Words.Count(result.BundlesRead, "bundle")} downloaded" : "";
        // A bundle that changed has another digest, so that it is both gone and new.
        var gone = result.BundlesGone - result.BundlesRead;
        return parts + read + (gone > 0 ? $", {Words.Count(gone, "bundle")} no longer there" : "");
    }
}
