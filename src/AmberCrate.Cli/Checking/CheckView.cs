using AmberCrate.Cli.Tables;
using AmberCrate.Cli.Terminal;
using AmberCrate.Cli.Texts;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Checking;
using AmberCrate.Engine.Inspecting;

namespace AmberCrate.Cli.Checking;

/// <summary>Shows what a check has found.</summary>
internal static class CheckView
{
    public static void Show(Output output, CheckResult result)
    {
        if (output.IsJson)
        {
            output.Json(CheckDocument.FromResult(result, output.Call));
            return;
        }

        var how = result.IsDeep ? "every file was read" : "file contents were not read; --deep does";
        output.Line(new Cell(Answer(result), result.IsBroken ? Tone.Attention : Tone.Strong),
            new Cell($" · {how}", Tone.Quiet));
        var last = "";
        foreach (var finding in result.Findings)
        {
            var weight = FindingWords.Weights.WordOf(finding.Weight);
            output.Fact(
                new Cell(weight.PadRight(11), finding.Weight == FindingWeight.Hint ? Tone.Quiet : Tone.Attention), finding.What);
            if (finding.Remedy.IsEmpty) continue;
            var remedy = output.FormatAdvice(finding.Remedy);
            if (remedy != last) output.Fact(new Cell("           do: ", Tone.Quiet), new Cell(remedy, Tone.Quiet));
            last = remedy;
        }

        if (result.Findings.Any(finding => finding.IsRepairable))
            output.Next(result.Findings.Any(finding => finding.Kind == FindingKind.ShelfChanged)
                ? NextCommand.Create("check", "--repair", "--deep")
                : NextCommand.Create("check", "--repair"));
    }

    private static string Answer(CheckResult result)
    {
        var apps = Words.Count(result.Apps, "app");
        var counts = result.Findings.GroupBy(finding => finding.Weight).OrderBy(group => group.Key)
            .Select(group => group.Key switch
            {
                FindingWeight.Broken => $"{group.Count()} broken",
                FindingWeight.Attention => $"{group.Count()} to look at",
                FindingWeight.Hint => Words.Count(group.Count(), "hint"),
            });
        var found = string.Join(", ", counts);
        return found.Length == 0 ? $"All is well with {apps}" : $"{found} among {apps}";
    }
}
