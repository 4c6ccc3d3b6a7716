using System.Text.Json.Serialization;
using AmberCrate.Cli.Shared;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Runs;
using AmberCrate.Engine.Runs;

namespace AmberCrate.Cli.Running;

/// <summary>An item of a run has ended, as a line of JSON.</summary>
internal sealed record ItemEvent : PlanItemDocument
{
    private ItemEvent(RunEvent.ItemEnds ended, CallOptions call)
        : base(ended.Report.Item, expected: null, call)
    {
        (Number, Count) = (ended.Place.Number, ended.Place.Count);
        Outcome = OutcomeWords.Outcomes.WordOf(ended.Report.Outcome);
        Problem = ProblemDocument.OfMaybe(ended.Report.Problem, call);
        Notes = ended.Report.Notes;
    }

    /// <summary>The document of how an item ended.</summary>
    public static ItemEvent FromEvent(RunEvent.ItemEnds ended, CallOptions call) => new(ended, call);

    [JsonPropertyOrder(-3)]
    public string Event { get; } = "item";

    [JsonPropertyOrder(-2)]
    public int Number { get; }

    [JsonPropertyOrder(-1)]
    public int Count { get; }

    public string Outcome { get; }

    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public ProblemDocument? Problem { get; }

    public IReadOnlyList<string> Notes { get; }
}
