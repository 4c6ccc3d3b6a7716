using AmberCrate.Core.Trials;
using AmberCrate.Engine.Drafting;

namespace AmberCrate.Cli.Drafting;

/// <summary>What came of starting a command or menu entry, as JSON.</summary>
internal sealed record CardTrialDocument(string App, string? Version, string Start, string Outcome, string Text)
{
    public static IEnumerable<CardTrialDocument> FromTrial(CardTrial trial) => trial.Starts.Select(start => new CardTrialDocument(
        trial.App.Text, trial.Version?.Text, start.Start, TrialWords.Outcomes.WordOf(start.Outcome), start.Words));
}
