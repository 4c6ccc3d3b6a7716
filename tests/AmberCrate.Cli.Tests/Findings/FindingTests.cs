using System.Text.RegularExpressions;
using AmberCrate.Engine.Inspecting;

namespace AmberCrate.Cli.Tests.Findings;

/// <summary>Each kind of finding is made for real, found, and gone after the command that is printed with it.</summary>
public sealed partial class FindingTests
{
    public static TheoryData<FindingKind> Kinds => [.. Enum.GetValues<FindingKind>()];

    [Theory]
    [MemberData(nameof(Kinds))]
    public async Task What_check_finds_is_gone_after_the_command_that_it_prints(FindingKind kind)
    {
        var state = FindingStates.All[kind];
        await using var sandbox = new Sandbox();
        sandbox.Run("catalogue", "keys", "new", "keys").ShouldEnd(0);
        sandbox.Run("catalogue", "build", "guild", "site", "--with-artifacts", "--keys", "keys").ShouldEnd(0);
        sandbox.Run("catalogue", "add", "guild", "site", "--trust", "site/root.json").ShouldEnd(0);
        sandbox.Prepare.Install("cue-ledger");
        Found(sandbox, state).ShouldBeEmpty("a new machine is well");

        state.Make(sandbox);
        var word = FindingWords.Kinds.WordOf(kind);
        var (_, weight, printed) = Found(sandbox, state).ShouldHaveSingleItem();
        var remedy = printed.Replace("~/home", sandbox["home"]).Replace("~/root", sandbox["root"]);
        weight.ShouldBe(FindingWords.Weights.WordOf(FindingTable.RowFor(kind).Weight));
        Found(sandbox, state)[0].Kind.ShouldBe(word);

        if (state.ByHand is { } byHand) FindingStates.Run(sandbox, byHand);
        if (state.Exported)
            sandbox.Variables["PATH"] = Export().Match(remedy).Groups["path"].Value.Replace("$PATH", sandbox.Variables["PATH"]);
        foreach (Match command in Command().Matches(remedy)) RunPrinted(sandbox, command.Value);
        if (state.Stays) return;
        Found(sandbox, state).Select(one => one.Kind).ShouldNotContain(word, remedy);
    }

    [Fact]
    public void Every_kind_has_its_row_and_the_page_has_them_all()
    {
        FindingTable.Rows.Select(row => row.Kind).Order().ShouldBe(Enum.GetValues<FindingKind>().Order());
        File.ReadAllText(Path.Combine(HelpTests.RepositoryRoot(), "docs", "commands.md"))
            .ShouldContain($"<!-- findings -->\n{FindingTable.Markdown}\n<!-- end -->", Case.Sensitive, "eng/pages writes it");
    }

    private static List<(string Kind, string Weight, string Remedy)> Found(Sandbox sandbox, FindingState state) =>
    [
        .. sandbox.Run(["check", "--json", .. state.Check]).Json.GetProperty("findings").EnumerateArray().Select(finding => (
            finding.GetProperty("kind").GetString()!, finding.GetProperty("weight").GetString()!,
            finding.GetProperty("remedy").GetString() ?? "")),
    ];

    private static void RunPrinted(Sandbox sandbox, string command)
    {
        if (command.StartsWith("chmod ", StringComparison.Ordinal))
        {
            FindingStates.Run(sandbox, command);
            return;
        }

        var words = command.Split(' ')[1..];
        string[] yes = words[0] is "pin" or "catalogue" or "about" ? [] : ["--yes"];
        var result = sandbox.Run([.. words, .. yes]);
        result.ExitCode.ShouldBe(0, $"{command}\n{result.Out}{result.Error}");
    }

    [GeneratedRegex(
        "(acrate [a-z]+( [^ ;,]+)*?|chmod [^ ]+ [^ ]+)(?=$|;|,| or | and | then )", RegexOptions.ExplicitCapture, 1000)]
    private static partial Regex Command();

    [GeneratedRegex("PATH=\"(?<path>[^\"]*)\"", RegexOptions.ExplicitCapture, 1000)]
    private static partial Regex Export();
}
