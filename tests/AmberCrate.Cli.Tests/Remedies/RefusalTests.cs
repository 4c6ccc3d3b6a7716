using System.Text.RegularExpressions;

namespace AmberCrate.Cli.Tests.Remedies;

/// <summary>Each command that is printed as the way on after a refusal is run as it is printed, and works.</summary>
public sealed partial class RefusalTests
{
    private static readonly string[] Asking = ["install", "upgrade", "uninstall", "adopt", "equip", "undo"];

    public static TheoryData<int> Rows => [.. Enumerable.Range(0, RefusalStates.All.Count)];

    [Theory]
    [MemberData(nameof(Rows))]
    public void The_command_that_is_printed_works(int row)
    {
        var state = RefusalStates.All[row];
        var sandbox = Sandbox.WithCatalogues();
        File.WriteAllText(sandbox["frame.bundle.toml"], "bundle = 1\n[[apps]]\nreference = \"cue-ledger\"\n");
        foreach (var line in state.Before) Run(sandbox, line).ShouldEnd(0);
        state.Make(sandbox);
        var refused = Run(sandbox, state.Line);
        refused.ExitCode.ShouldBe(state.ExitCode, $"{state.Line}\n{refused.Out}{refused.Error}");
        (refused.Out + refused.Error).ShouldContain($"acrate {state.Next}");
        NextLine().IsMatch(refused.Out + refused.Error).ShouldBeTrue();
        var next = state.Next.Replace("~", sandbox.Folder, StringComparison.Ordinal);
        foreach (var (word, value) in state.Fill) next = next.Replace(word, value, StringComparison.Ordinal);
        var done = Run(sandbox, next);
        done.ExitCode.ShouldBe(state.NextEnds, $"acrate {next}\n{done.Out}{done.Error}");
        if (state.Again is { } ends) Run(sandbox, state.Line).ShouldEnd(ends);
    }

    /// <summary>The messages are found in the source code, so that a new one cannot be left out.</summary>
    [Fact]
    public void Every_command_that_a_message_names_is_run_here_or_it_is_said_where()
    {
        var tree = Verbs();
        var run = RefusalStates.All.Select(state => VerbOf($"acrate {state.Next}", tree)).ToHashSet(StringComparer.Ordinal);
        var messages = File.ReadLines(Path.Combine(HelpTests.RepositoryRoot(), "tests", "messages.txt"));
        var named = messages.Where(line => line.Contains("next: ", StringComparison.Ordinal))
            .SelectMany(line => Command().Matches(line).Select(match => match.Value)).Where(text => !text.Contains("--help"))
            .Select(text => VerbOf(text, tree)).Where(verb => verb != "acrate").Distinct().ToList();
        named.Where(verb => !run.Contains(verb) && !RefusalStates.Elsewhere.Keys.Any(
            key => key == verb || key.StartsWith(verb + " --", StringComparison.Ordinal))).ShouldBeEmpty();
        RefusalStates.Elsewhere.Keys.Select(key => VerbOf(key, tree)).ShouldBeSubsetOf(named);
    }

    private static HashSet<string> Verbs()
    {
        var sandbox = new Sandbox();
        return sandbox.Run("--json").Json.GetProperty("commands").EnumerateArray()
            .Select(one => $"acrate {one.GetProperty("name").GetString()}").ToHashSet(StringComparer.Ordinal);
    }

    /// <summary>The longest beginning of a text that is a command.</summary>
    private static string VerbOf(string text, HashSet<string> verbs)
    {
        var words = text.Split(' ');
        for (var count = Math.Min(4, words.Length); count > 1; count--)
        {
            var verb = string.Join(' ', words.Take(count));
            if (verbs.Contains(verb)) return verb;
        }

        return "acrate";
    }

    private static Result Run(Sandbox sandbox, string line)
    {
        var words = line.Split(' ');
        return sandbox.Run(Asking.Contains(words[0]) && !words.Contains("--help") ? [.. words, "--yes"] : words);
    }

    [GeneratedRegex("(?m)^ *next: ", RegexOptions.ExplicitCapture, 1000)]
    private static partial Regex NextLine();

    [GeneratedRegex("acrate [a-z][^|;,]*", RegexOptions.ExplicitCapture, 1000)]
    private static partial Regex Command();
}
