using AmberCrate.Cli.Shared;
using AmberCrate.Cli.Tables;
using AmberCrate.Cli.Terminal;
using AmberCrate.Cli.Texts;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Cli.Running;

/// <summary>Shows a plan, and what else will change with it.</summary>
internal static class PlanView
{
    private const int DigestShown = 12, MostUnchanged = 10;

    /// <summary>Shows a plan that will not be carried out: also where it changes nothing, and then of each app why not.</summary>
    public static void ShowOnly(Output output, RunResult result)
    {
        if (output.IsJson)
        {
            output.Json(PlanDocument.FromPlan(result.Plan, result.Digest, output.Call, isEvent: false));
            return;
        }

        var plan = result.Plan;
        Show(output, plan);
        if (plan.Changes || plan.Items.Any(item => item.Action == PlanAction.Cannot)) return;
        var count = plan.Items.Count;
        output.Line(new Cell(count == 0 ? "Nothing to do." : $"Nothing to do: {count} unchanged.", Tone.Strong));
        foreach (var item in plan.Items.Where(item => IsWorthALine(output, item, count)))
            output.Line("unchanged  ", new Cell(item.Id, Tone.Strong), $" {item.From}{FormatNotes(output, item)}");
    }

    /// <summary>
    /// Whether an app that stays as it is gets a line: each of a few; of many, only those with a remark.
    /// </summary>
    public static bool IsWorthALine(Output output, PlanItem item, int count) =>
        count <= MostUnchanged || output.IsVerbose || item.Notes.Count > 0;

    /// <summary>A note of an item behind its version.</summary>
    public static string FormatNotes(Output output, PlanItem item) =>
        item.Note.IsEmpty ? "" : $"  {output.FormatAdvice(item.Note)}";

    /// <summary>Shows a plan, with what it takes.</summary>
    public static void Show(Output output, SurveyedPlan plan)
    {
        if (plan.Solved.Bundle is { Age: { } age } bundle)
            output.Line(new Cell($"bundle {bundle.Name}, from a catalogue that was refreshed {age}", Tone.Quiet));
        ShowCatalogues(output, plan);
        if (!plan.ChangesApps && plan.Items.All(item => item.Action != PlanAction.Cannot)) return;
        output.List(Verdict(plan), TableOf(output, plan), Takes(plan));
        if (!output.IsVerbose && plan.Items.Any(IsLeftOut))
            output.Line(new Cell("--verbose lists the unchanged, too", Tone.Quiet));
        if (plan.Solved.NotNeeded.Count > 0)
            output.Line(new Cell(
                $"no app needs {string.Join(", ", plan.Solved.NotNeeded)} any more; "
                    + "--remove-unneeded uninstalls what is not needed",
                Tone.Quiet));
        foreach (var item in plan.Items.Where(item => item.IsMadeOlder))
            output.Line(new Cell(
                $"{item.Id} becomes older, from {item.From} to {item.To}: there is no other way", Tone.Attention));
        if (plan.Items.Where(item => item.IsUnsigned).ToList() is { Count: > 0 } unsigned)
            output.Line(new Cell($"not signed: {string.Join(", ", unsigned.Select(item => item.Id))}", Tone.Attention));
        ShowLacks(output, plan);
        foreach (var (name, since) in plan.Expired)
            output.Line(new Cell(
                $"the signatures of {name} expired {PlainText.Time(since)}: newer releases may be missing", Tone.Attention));
        ShowPlaces(output, plan);
        ShowStarts(output, plan);
        if (plan.Rights.State == RightsState.Missing)
            output.Line(new Cell($"administrator rights are missing: {plan.Rights.By}", Tone.Attention));
        ScopeView.ShowInBothScopes(output, plan.InBothScopes, plan.Scope, plan.FirstOnPath);
        foreach (var need in plan.Space)
        {
            var about = need.IsEstimate ? "about " : "";
            var tone = need.Needed <= need.Free ? Tone.Quiet : Tone.Attention;
            output.Line(
                new Cell($"needs {about}{Words.Size(need.Needed)}; {Words.Size(need.Free)} free on {need.MountPoint}", tone));
        }
    }

    /// <summary>
    /// The question that is asked before the plan is carried out: with names and count where something is uninstalled or becomes
    /// older.
    /// </summary>
    public static string Question(SurveyedPlan plan)
    {
        var how = plan.Rights.State == RightsState.Raised ? $", as root by {plan.Rights.By}" : "";
        var removed = plan.Items.Where(item => item.Action == PlanAction.Remove).Select(item => item.Id).ToList();
        if (removed.Count > 0)
            return plan.Items.All(item => item.Action is PlanAction.Remove || !item.Changes)
                ? $"Uninstall {Words.Count(removed.Count, "app")}{how}: {string.Join(", ", removed)}?"
                : $"Go ahead{how}, and uninstall {Words.Count(removed.Count, "app")}: {string.Join(", ", removed)}?";
        if (plan.Items.Where(item => item is { Action: PlanAction.Downgrade, IsMadeOlder: false })
            .Select(item => $"{item.Id} {item.To}").ToList() is { Count: > 0 } lowered)
            return $"Go ahead{how}, and go back to an older version of {Words.Count(lowered.Count, "app")}: "
                + $"{string.Join(", ", lowered)}?";
        return plan.ChangesApps || plan.Solved.Pins.Count > 0 || plan.Solved.DroppedCatalogues.Any() ? $"Go ahead{how}?"
            : $"Add {Words.Count(plan.Solved.AddedCatalogues.Count(), "catalogue")}?";
    }

    private static void ShowCatalogues(Output output, SurveyedPlan plan)
    {
        foreach (var catalogue in plan.Solved.Catalogues)
        {
            if (catalogue.IsDropped)
            {
                output.Line("catalogue ", new Cell(catalogue.Name.Text, Tone.Strong), $" will be dropped: {catalogue.Location}");
                continue;
            }

            if (catalogue.Problem is not { } problem)
            {
                output.Line("catalogue ", new Cell(catalogue.Name.Text, Tone.Strong), $" will be added: {catalogue.Location}");
                if (catalogue.TakesOver.Count > 0)
                    output.Line(new Cell(
                        $"it takes over, from another catalogue of that name: {string.Join(", ", catalogue.TakesOver)}",
                        Tone.Attention));
                continue;
            }

            var why = problem.Why.Length > 0 ? $" ({problem.Why})" : "";
            output.Line(
                new Cell("catalogue ", Tone.Attention),
                $"{catalogue.Name} at {catalogue.Location} cannot be added: {problem.What}{why}");
        }

        foreach (var pin in plan.Solved.Pins)
            output.Line(
                "pin ", new Cell(pin.App.Text, Tone.Strong),
                pin.After is { } set ? $" will be {set.Words}" : $" will be lifted; it was {pin.Before!.Words}");
        if (plan.Solved.Catalogues.Count + plan.Solved.Pins.Count > 0) output.Line();
    }

    private static TextTable TableOf(Output output, SurveyedPlan plan)
    {
        var table = new TextTable(Shapes.Plan);
        foreach (var item in plan.Items.Where(item => output.IsVerbose || !IsLeftOut(item)).OrderBy(item => item.Action))
        {
            var tone =
                item.Action is PlanAction.Cannot or PlanAction.Downgrade or PlanAction.Remove ? Tone.Attention : Tone.Plain;
            var size = !plan.FetchesOnly && item.Fetches ? item.Delivery!.InstalledSize : null;
            table.Add(
                new Cell(Word(plan, item.Action), tone),
                new Cell(item.Id, Tone.Strong), item.From?.Text,
                item.Changes ? item.To?.Text : "",
                (item.Offer?.Catalogue ?? item.Installed?.Catalogue)?.Text,
                item.Fetches ? Words.Size(item.Delivery!.DownloadSize) : "",
                size is { } bytes ? Words.Size(bytes) : "", Remark(output, plan, item));
        }

        return table;
    }

    /// <summary>What the system lacks for apps of the plan, and the line that installs it.</summary>
    private static void ShowLacks(Output output, SurveyedPlan plan)
    {
        var lacks = plan.Items.SelectMany(item => item.Lacks).DistinctBy(lack => lack.Words).ToList();
        if (lacks.Count == 0) return;
        output.Line(new Cell($"this system lacks: {string.Join(", ", lacks.Select(lack => lack.Words))}", Tone.Attention));
        if (plan.Solved.InstallLine is { } line) output.Line(new Cell($"next: {line}", Tone.Attention));
    }

    private static void ShowPlaces(Output output, SurveyedPlan plan)
    {
        Placed(PlaceKind.Command, "commands: ");
        Placed(PlaceKind.DesktopEntry, "menu entries: ");
        foreach (var place in plan.Places.Where(place => place.Hides is not null))
            output.Line(new Cell($"{place.Path} hides {place.Hides}", Tone.Attention));
        foreach (var place in plan.Places.Where(place => place.FoundAfter is not null && !place.IsThere))
            output.Line(new Cell($"{NameOf(place)} goes on starting {place.FoundAfter}, which comes first on PATH",
                Tone.Attention));

        void Placed(PlaceKind kind, string words)
        {
            var names = plan.Places.Where(place => place.Kind == kind && (output.IsVerbose || !place.IsThere))
                .Select(place => NameOf(place)).ToList();
            if (names.Count > 0) output.Line(new Cell(words + string.Join(", ", names), Tone.Quiet));
        }
    }

    private static string NameOf(PlannedPlace place) =>
        place.Kind == PlaceKind.Command ? Path.GetFileName(place.Path) : Path.GetFileNameWithoutExtension(place.Path);

    private static void ShowStarts(Output output, SurveyedPlan plan)
    {
        var installers = plan.Starts.Where(start => start.Reason == StartReason.Installer).ToList();
        Started(StartReason.SignIn, start => start.Command, "starts at every sign-in from then on: ", Tone.Attention);
        if (installers.Count > 0)
        {
            var areConfined = installers.TrueForAll(start => start.IsConfined == true);
            var how =
                areConfined ? "confined, without network" : "NOT confined: with all your rights";
            var apps = string.Join(", ", installers.Select(start => start.App));
            output.Line(new Cell($"runs the vendor's installer of {apps}: {how}", areConfined ? Tone.Quiet : Tone.Attention));
        }

        Started(StartReason.Check, How, "started once, to see whether it works: ", Tone.Quiet);
        Started(StartReason.Schemas, start => $"{start.Command} for {start.App}", "prepares settings: ", Tone.Quiet);
        Started(StartReason.DesktopList, start => start.Command, "afterwards: ", Tone.Quiet);
        ShowLaunchers(output, plan);

        static string How(PlannedStart start) => start.IsConfined == true ? start.Command : $"{start.Command} (NOT confined)";

        void Started(StartReason reason, Func<PlannedStart, string> name, string words, Tone tone)
        {
            var names = plan.Starts.Where(start => start.Reason == reason).Select(name).ToList();
            if (names.Count > 0) output.Line(new Cell(words + string.Join(", ", names), tone));
        }
    }

    /// <summary>The variables that launchers set, so that programs find their own files.</summary>
    private static void ShowLaunchers(Output output, SurveyedPlan plan)
    {
        foreach (var item in plan.Items.Where(item => item.Fetches))
        {
            if (Words.Launcher(item.Offer!.Card.PlacementOf(item.Release!)) is { } words)
                output.Line(new Cell($"{item.Id} is started by a launcher that {words}", Tone.Quiet));
        }
    }

    private static string Word(SurveyedPlan plan, PlanAction action) =>
        plan.FetchesOnly
        && action is (PlanAction.Install or PlanAction.Upgrade or PlanAction.Downgrade or PlanAction.Replace)
            ? "download"
            : Words.WordFor(action);

    private static string Remark(Output output, SurveyedPlan plan, PlanItem item)
    {
        var parts = new[]
        {
            item.NeededBy.Count > 0 ? $"needed by {string.Join(", ", item.NeededBy)}" : "",
            item.Follows is not null && item.Changes && item.Action != PlanAction.Remember ? $"follows @{item.Follows}" : "",
            item.StatedSha256 is { } digest ? $"the file of sha256 {digest.Hex[..DigestShown]}… as you stated" : "",
            item.RunsInstaller && item.InstallerArguments.Count > 0
                ? $"to its installer: {string.Join(' ', item.InstallerArguments)}"
                : "",
            item.Platform is { } platform ? $"for {platform}" : "",
            item.IsAttended ? "you answer its installer" : "",
            output.FormatAdvice(item.Note),
            item.AlsoIn.Count > 0 ? $"also in {string.Join(", ", item.AlsoIn.Select(Other))}" : "",
            Attention(plan, item),
        };
        return string.Join("; ", parts.Where(part => part.Length > 0));

        static string Other((CatalogueName Catalogue, Core.Versions.AppVersion? Version) other) =>
            $"{other.Catalogue} ({other.Version?.Text ?? "nothing that fits"})";
    }

    private static string Attention(SurveyedPlan plan, PlanItem item) =>
        !plan.FetchesOnly && item.Fetches && item.Offer!.Card.Attention is { Count: > 0 } calls
            ? $"attention: {string.Join(", ", calls.Select(Words.WordFor))}"
            : "";

    /// <summary>Whether an item is counted and not listed, since nothing is done.</summary>
    private static bool IsLeftOut(PlanItem item) => item.Action == PlanAction.Keep;

    /// <summary>How many apps there are of each kind, in the order they are listed.</summary>
    private static string Verdict(SurveyedPlan plan) => string.Join(", ", plan.Items
        .OrderBy(item => item.Action)
        .GroupBy(item => (Word: Word(plan, item.Action), IsHindered: item.Obstacle is not null))
        .Select(group => group.First().Action switch
        {
            PlanAction.Cannot when !group.Key.IsHindered => $"{group.Count()} not offered",
            PlanAction.Cannot => $"{group.Count()} {group.Key.Word}",
            PlanAction.Keep or PlanAction.Remember => $"{group.Count()} unchanged",
            PlanAction.Install or PlanAction.Upgrade or PlanAction.Downgrade or PlanAction.Replace or PlanAction.Repair
                or PlanAction.Remove =>
                    $"{group.Count()} to {group.Key.Word}",
        }));

    /// <summary>What a plan takes: bytes and rights.</summary>
    private static string Takes(SurveyedPlan plan)
    {
        var parts = new List<string>();
        var where = plan.Solved.IsFromKit ? "in the kit" : "to download";
        if (plan.Solved.DownloadSize > plan.FetchedSize)
            parts.Add($"{Words.Size(plan.Solved.DownloadSize - plan.FetchedSize)} {where}");
        if (plan.FetchedSize > 0) parts.Add($"{Words.Size(plan.FetchedSize)} downloaded already");
        if (plan.RoomBack > 0) parts.Add($"frees {Words.Size(plan.RoomBack)}");
        if (plan.ChangesApps && !plan.FetchesOnly && plan.Rights.State != RightsState.Missing)
            parts.Add(
                plan.Rights.State == RightsState.Own
                    ? "no administrator rights needed"
                    : $"needs administrator rights, by {plan.Rights.By}");
        return string.Join(" · ", parts);
    }
}
