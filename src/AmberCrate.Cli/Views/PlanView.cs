using System.Text.Json;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Operations;
using AmberCrate.Engine.Rights;
using AmberCrate.Engine.Runs;

namespace AmberCrate.Cli.Views;

/// <summary>Shows a plan, and what else will change with it.</summary>
/// <param name="catalogues">Catalogues that will be added, as far as they could be fetched.</param>
/// <param name="fetchesOnly">Whether only what the plan needs will be fetched.</param>
internal sealed class PlanView(IReadOnlyList<RefreshResult>? catalogues = null, bool fetchesOnly = false)
{
    private readonly IReadOnlyList<RefreshResult> _catalogues = catalogues ?? [];

    /// <summary>The catalogues that are added before the plan is carried out.</summary>
    public IEnumerable<RegisteredCatalogue> AddedCatalogues => _catalogues.Where(result => result.Problem is null).Select(result => result.Catalogue);

    /// <summary>Whether catalogues are added.</summary>
    public bool ChangesCatalogues => AddedCatalogues.Any();

    /// <summary>Shows a plan that will not be carried out: also where it changes nothing, and then of each app why not.</summary>
    public void ShowOnly(Output output, Plan plan, PlanOutlook outlook, Workstation station)
    {
        Show(output, plan, outlook, station);
        if (plan.Changes || ChangesCatalogues || plan.Items.Any(item => item.Action == PlanAction.Cannot)) return;
        foreach (var item in plan.Items) output.Line($"{Words.Of(item.Action)}  ", new Cell(item.Id, Tone.Strong), $" {item.From}{(item.Note.Length > 0 ? $"  {item.Note}" : "")}");
        output.Line("Nothing to do.");
    }

    /// <summary>Shows a plan, with what it takes.</summary>
    public void Show(Output output, Plan plan, PlanOutlook outlook, Workstation station)
    {
        foreach (var result in _catalogues)
        {
            if (result.Problem is { } problem) output.Line(new Cell("catalogue ", Tone.Attention), $"{result.Catalogue.Name} at {result.Catalogue.Location} cannot be added: {problem.What}{(problem.Why.Length > 0 ? $" ({problem.Why})" : "")}");
            else output.Line("catalogue ", new Cell(result.Catalogue.Name.Text, Tone.Strong), $" will be added: {result.Catalogue.Location}");
        }

        if (_catalogues.Count > 0) output.Line();
        if (!plan.Changes && plan.Items.All(item => item.Action != PlanAction.Cannot)) return;
        var table = new TextTable("plan", "app", "from", "to", "catalogue", "download", "on disk", "remark");
        foreach (var item in plan.Items)
        {
            var tone = item.Action is PlanAction.Cannot or PlanAction.Downgrade or PlanAction.Remove ? Tone.Attention : Tone.Plain;
            table.Add(
                new Cell(Word(item.Action), tone), new Cell(item.Id, Tone.Strong), item.From?.Text, item.Changes ? item.To?.Text : "",
                (item.Offer?.Catalogue ?? item.Installed?.Catalogue)?.Text, item.Fetches ? Words.Size(item.Artifact!.DownloadSize) : "", !fetchesOnly && item.Fetches && item.Artifact!.InstalledSize is { } size ? Words.Size(size) : "", Remark(item));
        }

        output.Table(table);
        output.Line(new Cell(Totals(plan, outlook), Tone.Quiet));
        if (!fetchesOnly && plan.Items.SelectMany(Autostart).ToList() is { Count: > 0 } started) output.Line(new Cell($"starts at every sign-in from then on: {string.Join(", ", started)}", Tone.Attention));
        if (!fetchesOnly && plan.Items.Where(item => item.RunsInstaller).Select(item => item.Id).ToList() is { Count: > 0 } installers)
        {
            output.Line(new Cell($"runs the vendor's installer of {string.Join(", ", installers)}: {(outlook.ConfinesInstallers ? "confined by bwrap, without network" : "NOT confined, since bwrap is missing here or does not work")}", outlook.ConfinesInstallers ? Tone.Quiet : Tone.Attention));
        }

        if (!fetchesOnly && plan.Items.Select(Check).OfType<string>().ToList() is { Count: > 0 } checks) output.Line(new Cell($"started once, to see whether it works: {string.Join(", ", checks)}", Tone.Quiet));
        if (outlook.Afterwards.Count > 0) output.Line(new Cell($"afterwards: {string.Join(", ", outlook.Afterwards)}", Tone.Quiet));
        if (outlook.Rights.State == RightsState.Missing) output.Line(new Cell($"rights are missing: {outlook.Rights.By}", Tone.Attention));
        if (!fetchesOnly) ScopeView.ShowTwice(output, outlook.Twice, station);
        foreach (var need in outlook.Space)
            output.Line(new Cell($"space: {(need.IsEstimate ? "about " : "")}{Words.Size(need.Needed)} of {Words.Size(need.Free)} free on {need.MountPoint}", need.Needed <= need.Free ? Tone.Quiet : Tone.Attention));
    }

    /// <summary>What is started once, to see whether an app works.</summary>
    private static string? Check(PlanItem item) => item.Fetches ? item.Offer!.Card.PlacementOf(item.Release!).Check?.CommandLine : null;

    /// <summary>What is started in the background when a person signs in, after a plan.</summary>
    private static IEnumerable<string> Autostart(PlanItem item) => item.Fetches
        ? item.Offer!.Card.PlacementOf(item.Release!).Autostart.Select(entry => entry.Arguments.Length > 0 ? $"{entry.Command} {entry.Arguments}" : entry.Command.Text)
        : [];

    /// <summary>The question that is asked before the plan is carried out: with names and count where something is taken off.</summary>
    public string Question(Plan plan, RightsNeed rights)
    {
        var how = rights.State == RightsState.Raised ? $", as root by {rights.By}" : "";
        var removed = plan.Items.Where(item => item.Action == PlanAction.Remove).Select(item => item.Id).ToList();
        if (removed.Count > 0) return $"Uninstall {Words.Count(removed.Count, "app")}{how}: {string.Join(", ", removed)}?";
        return plan.Changes ? $"Go ahead{how}?" : $"Add {Words.Count(AddedCatalogues.Count(), "catalogue")}?";
    }

    public void WriteJson(Output output, Plan plan, Sha256Digest digest, PlanOutlook outlook, Workstation station) => output.Json(json =>
    {
        json.WriteStartObject();
        WriteFields(json, plan, digest, outlook, station);
        json.WriteEndObject();
    });

    /// <summary>Writes the plan as the first event of a run.</summary>
    public void WriteEvent(Output output, Plan plan, Sha256Digest digest, PlanOutlook outlook, Workstation station) => output.Event("plan", json => WriteFields(json, plan, digest, outlook, station));

    private void WriteFields(Utf8JsonWriter json, Plan plan, Sha256Digest digest, PlanOutlook outlook, Workstation station)
    {
        json.WriteString("digest", $"sha256:{digest}");
        json.WriteString("scope", Words.Of(station.Layout.Scope));
        WriteCatalogueFields(json);
        json.WriteBoolean("changes", plan.Changes);
        json.WriteNumber("download_size", plan.DownloadSize);
        json.WriteNumber("fetched_size", outlook.Fetched);
        json.WriteString("rights", outlook.Rights.State switch
        {
            RightsState.Own => "own",
            RightsState.Raised => "raised",
            _ => "missing",
        });
        json.WriteString("rights_by", outlook.Rights.State == RightsState.Raised ? outlook.Rights.By : null);
        ScopeView.WriteTwice(json, outlook.Twice, station);
        json.WriteStartArray("afterwards");
        foreach (var program in outlook.Afterwards) json.WriteStringValue(program);
        json.WriteEndArray();
        json.WriteStartArray("autostart");
        foreach (var command in plan.Items.SelectMany(Autostart)) json.WriteStringValue(command);
        json.WriteEndArray();
        json.WriteStartArray("checks");
        foreach (var check in plan.Items.Select(Check).OfType<string>()) json.WriteStringValue(check);
        json.WriteEndArray();
        json.WriteBoolean("installers_confined", outlook.ConfinesInstallers);
        json.WriteStartArray("space");
        foreach (var need in outlook.Space)
        {
            json.WriteStartObject();
            json.WriteString("mount_point", need.MountPoint);
            json.WriteNumber("needed", need.Needed);
            json.WriteNumber("free", need.Free);
            json.WriteBoolean("estimate", need.IsEstimate);
            json.WriteEndObject();
        }

        json.WriteEndArray();
        json.WriteStartArray("items");
        foreach (var item in plan.Items)
        {
            json.WriteStartObject();
            json.WriteFields(item);
            json.WriteEndObject();
        }

        json.WriteEndArray();
    }

    private void WriteCatalogueFields(Utf8JsonWriter json)
    {
        json.WriteStartArray("added_catalogues");
        foreach (var catalogue in AddedCatalogues)
        {
            json.WriteStartObject();
            json.WriteString("name", catalogue.Name.Text);
            json.WriteString("location", catalogue.Location);
            json.WriteEndObject();
        }

        json.WriteEndArray();
    }

    private string Word(PlanAction action) => fetchesOnly && action is (PlanAction.Install or PlanAction.Upgrade or PlanAction.Downgrade) ? "fetch" : Words.Of(action);

    private string Remark(PlanItem item)
    {
        var asked = item.Asked is not null && item.Changes && item.Action != PlanAction.Remember ? $"kept to @{item.Asked}" : "";
        var needed = item.NeededBy.Count > 0 ? "needed by " + string.Join(", ", item.NeededBy) : "";
        var attention = !fetchesOnly && item.Fetches && item.Offer!.Card.Attention is { Count: > 0 } calls ? "attention: " + string.Join(", ", calls.Select(Words.Of)) : "";
        var stated = item.StatedSha256 is { } digest ? $"the file of sha256 {digest.Hex[..12]}… as you stated" : "";
        var given = item.RunsInstaller && item.ToInstaller.Count > 0 ? "to its installer: " + string.Join(' ', item.ToInstaller) : "";
        var others = item.AlsoIn.Count > 0 ? $"also in {string.Join(", ", item.AlsoIn.Select(other => $"{other.Catalogue} ({other.Version?.Text ?? "nothing that fits"})"))}" : "";
        return string.Join("; ", new[] { needed, asked, stated, given, item.Note, others, attention }.Where(part => part.Length > 0));
    }

    private string Totals(Plan plan, PlanOutlook outlook)
    {
        var parts = plan.Items.GroupBy(item => Word(item.Action)).Select(group => group.First().Action switch
        {
            PlanAction.StayPinned => $"{group.Count()} pinned",
            PlanAction.Cannot => $"{group.Count()} cannot be had",
            _ => $"{group.Count()} to {group.Key}",
        }).ToList();
        if (plan.DownloadSize > outlook.Fetched) parts.Add($"{Words.Size(plan.DownloadSize - outlook.Fetched)} to download");
        if (outlook.Fetched > 0) parts.Add($"{Words.Size(outlook.Fetched)} fetched already");
        if (plan.Changes && !fetchesOnly && outlook.Rights.State != RightsState.Missing) parts.Add(outlook.Rights.State == RightsState.Own ? "no further rights needed" : $"takes root's rights, by {outlook.Rights.By}");
        return string.Join(" · ", parts);
    }
}
