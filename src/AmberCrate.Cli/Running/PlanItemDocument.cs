using System.Text.Json.Serialization;
using AmberCrate.Cli.Shared;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Runs;

namespace AmberCrate.Cli.Running;

/// <summary>What a plan does with one app, as JSON.</summary>
internal record PlanItemDocument
{
    protected PlanItemDocument(PlanItem item, Outcome? expected, CallOptions call)
    {
        Expected = expected is { } outcome ? OutcomeWords.Outcomes.WordOf(outcome) : null;
        (Id, Action, From, To) = (item.Id, ActionWords.Actions.WordOf(item.Action), item.From?.Text, item.To?.Text);
        (Catalogue, Follows) = ((item.Offer?.Catalogue ?? item.Installed?.Catalogue)?.Text, item.Follows?.ToString());
        (NeededBy, FromShelf, Dependency) = (item.NeededBy, item.Restores is not null, item.IsDependency);
        (RemovedSettings, MadeOlder) = (item.RemovedSettings, item.IsMadeOlder);
        AlsoIn = [.. item.AlsoIn.Select(other => new AlsoInDocument(other.Catalogue.Text, other.Version?.Text))];
        Reasons = [.. item.Notes.Select(note =>
            new NoteDocument(note.Code, note.Values.ToDictionary(pair => pair.Name, pair => pair.Value), note.Text.In(call)))];
        Note = item.Note.In(call);
        Lacks = [.. item.Lacks.Select(LackDocument.FromLack)];
        if (item.Delivery is not { } delivery) return;
        (DownloadSize, InstalledSize) = (delivery.DownloadSize, delivery.InstalledSize);
        Files = [.. delivery.Files.Select(file => ArtifactDocument.FromFile(
            file, item.StatedSha256 ?? file.Sha256, item.Offer!.Base))];
        (Source, Mirrors) = (Files[0].Source, Files[0].Mirrors);
        (Sha256, Sha256Stated) = (item.DeliveryDigest!.Hex, item.StatedSha256 is not null);
        Unsigned = item.IsUnsigned;
        Attention = [.. (item.Offer!.Card.Attention ?? []).Select(CardWords.Attentions.WordOf)];
    }

    /// <summary>The document of an item.</summary>
    public static PlanItemDocument FromItem(PlanItem item, Outcome expected, CallOptions call) => new(item, expected, call);

    public string Id { get; }

    public string Action { get; }

    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public string? Expected { get; }

    public string? From { get; }

    public string? To { get; }

    public string? Catalogue { get; }

    public string? Follows { get; }

    public long? DownloadSize { get; }

    public string? Source { get; }

    public long? InstalledSize { get; }

    public IReadOnlyList<string>? Mirrors { get; }

    public string? Sha256 { get; }

    public IReadOnlyList<ArtifactDocument>? Files { get; }

    public bool? Sha256Stated { get; }

    public bool? Unsigned { get; }

    public IReadOnlyList<string>? Attention { get; }

    public IReadOnlyList<string> NeededBy { get; }

    public bool FromShelf { get; }

    public bool MadeOlder { get; }

    public bool Dependency { get; }

    public IReadOnlyList<string> RemovedSettings { get; }

    public IReadOnlyList<AlsoInDocument> AlsoIn { get; }

    public IReadOnlyList<LackDocument> Lacks { get; } = [];

    public IReadOnlyList<NoteDocument> Reasons { get; }

    public string Note { get; }
}
