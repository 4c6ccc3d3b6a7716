using System.Diagnostics;
using AmberCrate.Tests;

namespace AmberCrate.Cli.Tests;

/// <summary>Completion scripts in the shells that they are for.</summary>
public sealed class CompletionsTests
{
    private const string Bash = """
        source "$SCRIPT"
        compopt() { :; }
        COMP_WORDS=("$@") COMP_CWORD=$(($# - 1))
        _acrate
        printf '%s\n' "${COMPREPLY[@]}"
        """;

    private const string Zsh = """
        compdef() { :; }
        compadd() { [[ $1 == -- ]] && shift; print -rl -- ${(M)@:#$words[CURRENT]*}; }
        _describe() { print -rl -- ${(M)${known%%:*}:#$words[CURRENT]*}; }
        _files() { print -rl -- $words[CURRENT]*(N); }
        source "$SCRIPT"
        words=("$@") CURRENT=$#
        _acrate
        """;

    private const string Fish = """
        source $SCRIPT
        complete -C (string join ' ' -- $argv) | cut -f1 | string trim -r -c /
        """;

    public static TheoryData<string, string, string> Cases()
    {
        var cases = new TheoryData<string, string, string>();
        foreach (var shell in new[] { "bash", "zsh", "fish" })
        {
            cases.Add(shell, "acrate ins", "install");
            cases.Add(shell, "acrate install s", "scrim-paint seatmap-teller");
            cases.Add(shell, "acrate uninstall ", "cue-ledger");
            cases.Add(shell, "acrate catalogue re", "refresh renew resume");
            cases.Add(shell, "acrate catalogue drop ", "guild house");
            cases.Add(shell, "acrate search --kind ", "console desktop font runtime");
            cases.Add(shell, "acrate search --li", "--licence --limit");
            cases.Add(shell, "acrate install --yes --skip gantry", "gantry-plot");
            cases.Add(shell, "acrate equip gui", "guild");
            cases.Add(shell, "acrate completions f", "fish");
        }

        return cases;
    }

    [Theory]
    [MemberData(nameof(Cases))]
    public async Task A_shell_proposes_what_fits(string shell, string typed, string proposed)
    {
        var program = new[] { "/usr/bin", "/bin" }.Select(folder => Path.Combine(folder, shell)).FirstOrDefault(File.Exists);
        if (program is null) Assert.Skip($"{shell} is not here");
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Prepare.Install("cue-ledger");
        File.WriteAllText(sandbox["script"], sandbox.Run("completions", shell).ShouldEnd(0).Out);
        File.CreateSymbolicLink(sandbox["acrate"], Sandbox.Program);
        var code = shell switch { "bash" => Bash, "zsh" => Zsh, _ => Fish };
        var words = typed.Split(' ');
        Directory.CreateDirectory(sandbox["home"]);
        string[] options = shell switch
        {
            "bash" => ["-c", code, "bash"],
            "zsh" => ["-f", "-c", code, "zsh"],
            _ => ["--no-config", "-c", code],
        };
        var start = new ProcessStartInfo(program, [.. options, .. words])
        {
            WorkingDirectory = sandbox.Folder, RedirectStandardOutput = true, RedirectStandardError = true,
            UseShellExecute = false,
            Environment =
            {
                ["SCRIPT"] = sandbox["script"], ["PATH"] = $"{sandbox.Folder}:/usr/bin:/bin", ["HOME"] = sandbox["home"],
                ["ACRATE_ROOT"] = sandbox["root"],
            },
        };
        using var process = Process.Start(start)!;
        var error = process.ReadErrorsAsync();
        var shown = await process.ReadOutputAsync();
        await process.EndInTimeAsync();
        (await error).ShouldBe("");
        shown.Split('\n', StringSplitOptions.RemoveEmptyEntries).Order(StringComparer.Ordinal)
            .ShouldBe(proposed.Split(' ').Order(StringComparer.Ordinal), typed);
    }
}
