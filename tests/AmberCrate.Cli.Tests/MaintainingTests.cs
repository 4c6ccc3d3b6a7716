using System.Diagnostics;
using System.Text.RegularExpressions;
using AmberCrate.Tests;

namespace AmberCrate.Cli.Tests;

/// <summary>The commands of docs/maintaining.md, in their order, in a real shell.</summary>
public sealed class MaintainingTests
{
    [Fact]
    public async Task Every_command_of_the_page_for_maintainers_works_as_it_stands_there()
    {
        await using var sandbox = new Sandbox();
        var files = World(sandbox);
        File.WriteAllText(sandbox["programs", "vi"], """
            #!/bin/sh
            # Answers what every card asks: its summary.
            sed -i 's/^# summary = ""  # What.*/summary = "Something for the stage"/' "$@"
            """);
        File.SetUnixFileMode(sandbox["programs", "vi"], (UnixFileMode)0b111_101_101);
        File.CreateSymbolicLink(sandbox["programs", "acrate"], Sandbox.Program);
        foreach (var block in Blocks())
        {
            var (code, said) = Shell(sandbox, block);
            code.ShouldBe(0, $"{block}\n{said}");
            if (block.StartsWith("acrate catalogue add guild site", StringComparison.Ordinal))
            {
                // From an empty folder to eleven apps on a bare machine: the data of one are drafted as an app of their own.
                var (end, installed) = Shell(
                    sandbox, "acrate install $(ls guild/*.appcard.toml | sed 's|guild/||;s|.appcard.toml||') --yes");
                end.ShouldBe(0, installed);
                installed.ShouldContain("10 done, 1 unchanged.");
            }
        }

        files.ShouldBeGreaterThan(10);
        File.Exists(sandbox["site", "index.html"]).ShouldBeTrue();
        sandbox.Run("list", "--json").Out.ShouldContain("\"scrim-paint\"");
        sandbox.Run("due").ShouldEnd(0).Out.ShouldContain("5.1.0");
    }

    /// <summary>Puts the vendors' files where a browser saves what it downloads; one more comes out later.</summary>
    private static int World(Sandbox sandbox)
    {
        foreach (var folder in new[] { "home/Downloads", "home/Later", "programs" }) Directory.CreateDirectory(sandbox[folder]);
        var files = Directory.GetFiles(sandbox["guild", "files"]);
        foreach (var file in files) File.Move(file, sandbox["home", "Downloads", Path.GetFileName(file)]);
        Directory.Delete(sandbox["guild"], recursive: true);
        Directory.Delete(sandbox["house"], recursive: true);
        File.Copy(
            sandbox["home", "Downloads", "scrim-paint-4.2.1.tar.xz"], sandbox["home", "Later", "scrim-paint-5.1.0.tar.xz"]);
        return files.Length;
    }

    private static IEnumerable<string> Blocks() => Regex
        .Matches(
            File.ReadAllText(Path.Combine(BuiltProgram.Repository, "docs", "maintaining.md")),
            "^```sh\n(?<commands>.*?)^```$", RegexOptions.Singleline | RegexOptions.Multiline | RegexOptions.ExplicitCapture,
            TimeSpan.FromSeconds(5))
        .Select(block => block.Groups["commands"].Value);

    private static (int Code, string Said) Shell(Sandbox sandbox, string commands)
    {
        var start = new ProcessStartInfo("/bin/sh", ["-euc", commands])
        {
            WorkingDirectory = sandbox.Folder, RedirectStandardOutput = true, RedirectStandardError = true,
            UseShellExecute = false,
        };
        start.Environment["HOME"] = sandbox["home"];
        start.Environment["ACRATE_ROOT"] = sandbox["root"];
        start.Environment["PATH"] = $"{sandbox["programs"]}:{start.Environment["PATH"]}";
        start.Environment.Remove("EDITOR");
        using var shell = Process.Start(start)!;
        var errors = shell.ReadErrorsAsync();
        var output = shell.ReadOutput();
        shell.EndInTime();
        return (shell.ExitCode, output + errors.GetAwaiter().GetResult());
    }
}
