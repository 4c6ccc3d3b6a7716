using System.Text.Json.Serialization;
using AmberCrate.Cli.Shared;
using AmberCrate.Cli.Terminal;
using AmberCrate.Cli.Texts;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Runs;
using AmberCrate.Core.Values;

namespace AmberCrate.Cli.Running;

/// <summary>A plan, as JSON: a document, or the first line of a run.</summary>
internal sealed record PlanDocument
{
    private PlanDocument(SurveyedPlan plan, Sha256Digest digest, CallOptions call, bool isEvent)
    {
        Event = isEvent ? "plan" : null;
        (Digest, Scope) = ($"sha256:{digest}", ScopeWords.Scopes.WordOf(plan.Scope));
        AddedCatalogues =
            [
                .. plan.Solved.AddedCatalogues.Select(
                    catalogue => new AddedCatalogueDocument(catalogue.Name.Text, catalogue.Location)),
            ];
        DroppedCatalogues =
            [
                .. plan.Solved.DroppedCatalogues.Select(
                    catalogue => new AddedCatalogueDocument(catalogue.Name.Text, catalogue.Location)),
            ];
        Pins = [.. plan.Solved.Pins.Select(pin => new RunPinDocument(
            pin.App.Text, PinDocument.OfMaybe(pin.Before, isLapsed: false), PinDocument.OfMaybe(pin.After, isLapsed: false)))];
        (RoomBack, NotNeeded) = (plan.RoomBack, plan.Solved.NotNeeded);
        (Changes, DownloadSize, FetchedSize) = (plan.Changes, plan.Solved.DownloadSize, plan.FetchedSize);
        (Rights, RightsBy) =
            (RightsWords.States.WordOf(plan.Rights.State), plan.Rights.State == RightsState.Raised ? plan.Rights.By : null);
        var other = ScopeWords.Scopes.WordOf(plan.Scope == InstallScope.AllUsers ? InstallScope.ThisUser : InstallScope.AllUsers);
        InBothScopes = [.. plan.InBothScopes.Select(app => new OtherScopeDocument(app.Id.Text, other, app.Version.Text))];
        FirstOnPath = plan.FirstOnPath;
        NotSigned = [.. plan.Solved.NotSigned.Select(name => name.Text)];
        Expired = [.. plan.Expired.Select(one => new ExpiredDocument(one.Name.Text, PlainText.Time(one.Since)))];
        Places = [.. plan.Places.Select(
            place => new PlaceDocument(place.App, PlaceWords.Kinds.WordOf(place.Kind), place.Path, place.Hides))];
        Starts = [.. plan.Starts.Select(
            start => new StartDocument(StartWords.Reasons.WordOf(start.Reason), start.App, start.Command, start.IsConfined))];
        Space = [.. plan.Space.Select(need => new SpaceDocument(need.MountPoint, need.Needed, need.Free, need.IsEstimate))];
        ExitCode = ExitCodes.ForPlan(plan);
        InstallLine = plan.Solved.InstallLine;
        if (plan.Solved.Bundle is { } bundle)
            Bundle = new PlannedBundleDocument(
                bundle.Name, $"sha256:{bundle.Sha256}", bundle.Refreshed is { } time ? PlainText.Time(time) : null,
                [.. bundle.Layers.Select(layer => new BundleDigestDocument(layer.Name, $"sha256:{layer.Sha256}"))]);
        Counts = plan.Items.GroupBy(item => ActionWords.Actions.WordOf(item.Action), StringComparer.Ordinal)
            .ToDictionary(group => group.Key, group => group.Count(), StringComparer.Ordinal);
        Items = [.. RunReport.Foreseen(plan.Solved).Items.Select(one => PlanItemDocument.FromItem(one.Item, one.Outcome, call))];
    }

    /// <summary>The document of a plan, or the first line of a run.</summary>
    public static PlanDocument FromPlan(SurveyedPlan plan, Sha256Digest digest, CallOptions call, bool isEvent) =>
        new(plan, digest, call, isEvent);

    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public string? Event { get; }

    public int Format { get; } = DocumentFormat.Number;

    public string Digest { get; }

    public int ExitCode { get; }

    public IReadOnlyDictionary<string, int> Counts { get; }

    public PlannedBundleDocument? Bundle { get; }

    public string Scope { get; }

    public IReadOnlyList<AddedCatalogueDocument> AddedCatalogues { get; }

    public IReadOnlyList<string> NotSigned { get; }

    public IReadOnlyList<ExpiredDocument> Expired { get; }

    public IReadOnlyList<AddedCatalogueDocument> DroppedCatalogues { get; }

    public IReadOnlyList<RunPinDocument> Pins { get; }

    public long RoomBack { get; }

    public IReadOnlyList<string> NotNeeded { get; }

    public bool Changes { get; }

    public long DownloadSize { get; }

    public long FetchedSize { get; }

    public string Rights { get; }

    public string? RightsBy { get; }

    public IReadOnlyList<OtherScopeDocument> InBothScopes { get; }

    public string? FirstOnPath { get; }

    public IReadOnlyList<PlaceDocument> Places { get; }

    public IReadOnlyList<StartDocument> Starts { get; }

    public IReadOnlyList<SpaceDocument> Space { get; }

    public string? InstallLine { get; }

    public IReadOnlyList<PlanItemDocument> Items { get; }
}

/// <summary>The bundle that a plan comes from, as JSON.</summary>
internal sealed record PlannedBundleDocument(
    string Name, string Digest, string? Refreshed, IReadOnlyList<BundleDigestDocument> Layers);

/// <summary>A bundle that another one builds on, as JSON.</summary>
internal sealed record BundleDigestDocument(string Name, string Digest);
