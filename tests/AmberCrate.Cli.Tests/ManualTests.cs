using System.Diagnostics;
using AmberCrate.Tests;

namespace AmberCrate.Cli.Tests;

/// <summary>The manual pages, by another's judgement.</summary>
public sealed class ManualTests
{
    [Fact]
    public async Task Every_command_has_a_page_and_mandoc_finds_no_fault()
    {
        await using var sandbox = new Sandbox();
        var pages = Path.Combine(AppContext.BaseDirectory, "AmberCrate.Pages.dll");
        Run(sandbox, "dotnet", pages, "manual", BuiltProgram.Repository, sandbox["man"], "2026-11-25").ShouldBe((0, ""));
        var commands = sandbox.Run("--json").ShouldEnd(0).Json.GetProperty("commands").EnumerateArray()
            .Select(command => $"acrate-{command.GetProperty("name").GetString()!.Replace(' ', '-')}.1");
        Directory.GetFiles(sandbox["man"]).Select(file => Path.GetFileName(file)!).ShouldBe(
            [.. commands, "acrate.1", "acrate-appcard.5", "acrate-bundle.5"], ignoreOrder: true);
        if (!File.Exists("/usr/bin/mandoc")) Assert.Skip("mandoc is not here");
        var found = Run(sandbox, "mandoc", ["-T", "lint", "-W", "warning", .. Directory.GetFiles(sandbox["man"])]);
        found.ShouldBe((0, ""));
    }

    private static (int Ended, string Output) Run(Sandbox sandbox, string program, params string[] arguments)
    {
        using var process = Process.Start(new ProcessStartInfo(program, arguments)
        {
            WorkingDirectory = sandbox.Folder, RedirectStandardOutput = true, RedirectStandardError = true,
            UseShellExecute = false,
        })!;
        var error = process.ReadErrorsAsync();
        var text = process.ReadOutput() + error.Result;
        process.EndInTime();
        return (process.ExitCode, text);
    }
}
