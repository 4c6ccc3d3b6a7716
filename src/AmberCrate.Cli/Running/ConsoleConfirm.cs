using AmberCrate.Cli.Tables;
using AmberCrate.Cli.Terminal;
using AmberCrate.Cli.Texts;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Trust;
using AmberCrate.Engine.Sessions;
using Spectre.Console;

namespace AmberCrate.Cli.Running;

/// <summary>Asks the user on the terminal.</summary>
/// <param name="output">Where to.</param>
/// <param name="hasTerminal">Whether there is one to ask on.</param>
internal sealed class ConsoleConfirm(Output output, bool hasTerminal) : IConfirm
{
    public bool CanAsk => hasTerminal && !output.IsJson;

    public Plan? Pick(Plan plan, CancellationToken cancel) => PickView.Ask(output, plan, cancel);

    public IReadOnlySet<string>? Pick(IReadOnlyList<(string Name, string Words)> choices, CancellationToken cancel) =>
        PickView.Ask(output, choices, cancel);

    public bool MayGoAhead(SurveyedPlan plan, CancellationToken cancel) => Ask(PlanView.Question(plan), cancel);

    public bool MayMakeOlder(IReadOnlyList<PlanItem> older, CancellationToken cancel) =>
        Ask($"Really go back to an older version of {string.Join(", ", older.Select(item => item.Id))}?", cancel);

    public bool MayTakeChangedCards(IReadOnlyList<PlanItem> changed, CancellationToken cancel)
    {
        foreach (var item in changed)
        {
            foreach (var change in item.CardChanges)
                output.Line(new Cell("changed  ", Tone.Attention), new Cell(item.Id, Tone.Strong), $" {change.Words}");
        }

        return Ask(
            $"{(changed.Count == 1 ? "This app has" : "These apps have")} changed since you installed "
            + $"{(changed.Count == 1 ? "it" : "them")}. Go on?", cancel);
    }

    public bool MayTrust(OfferedRoot offered, CancellationToken cancel)
    {
        Show(offered);
        return Ask("Is this what its maintainer says? Trust it?", cancel);
    }

    public bool MaySign(CancellationToken cancel) => Ask("Sign this?", cancel);

    public bool MayReclaim(ReclaimPlan plan, CancellationToken cancel) =>
        Ask($"Delete this for {Words.Size(plan.Size)}?", cancel);

    private bool Ask(string question, CancellationToken cancel)
    {
        output.Flush();
        using var keys = TerminalKeys.Open(isLeftByEscape: true);
        var prompt = new ConfirmationPrompt(Markup.Escape(Printable.Line(question)))
        {
            DefaultValue = false, ShowDefaultValue = false, ChoicesStyle = Palette.StyleOf(Tone.Quiet),
            InvalidChoiceMessage = "y or n, please",
        };
        try
        {
            return prompt.ShowAsync(output.Moving, cancel).GetAwaiter().GetResult();
        }
        catch (NoAnswerException)
        {
            output.Moving.WriteLine();
            return false;
        }
    }

    private void Show(OfferedRoot offered)
    {
        var rule = offered.Root.Roles[TrustRole.Root];
        output.Line(new Cell(offered.Name.Text, Tone.Strong), $" is signed. Its root, version {offered.Root.Version}:");
        output.Line($"  sha256  {offered.Digest}");
        output.Line($"  keys    {rule.Threshold} of these must sign a new root");
        foreach (var id in rule.KeyIds) output.Line($"          {id}");
    }
}
