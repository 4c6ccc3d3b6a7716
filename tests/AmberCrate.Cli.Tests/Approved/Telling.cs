using System.Diagnostics;
using System.Text.RegularExpressions;
using AmberCrate.Tests;

namespace AmberCrate.Cli.Tests.Approved;

/// <summary>
/// The story told once, on a machine of its own whose clock stands still (libfaketime), and what the program prints at each step.
/// </summary>
internal sealed partial class Telling
{
    private const string Now = "2026-12-05 12:00:00";

    /// <summary>Where Debian puts the library that sets a program's clock.</summary>
    public static string? FakeTime { get; } = Directory.Exists("/usr/lib")
        ? Directory.EnumerateFiles("/usr/lib", "libfaketimeMT.so.1", new EnumerationOptions
        {
            RecurseSubdirectories = true, MaxRecursionDepth = 3, IgnoreInaccessible = true,
        }).FirstOrDefault()
        : null;

    /// <summary>Tells it.</summary>
    /// <param name="width">The columns of the terminal; null for a pipe.</param>
    /// <returns>By the name of each step its exit code and what was printed.</returns>
    public static async Task<Dictionary<string, (int ExitCode, string Text)>> TellAsync(int? width)
    {
        await using var sandbox = new Sandbox
        {
            Variables =
            {
                ["LD_PRELOAD"] = FakeTime!, ["FAKETIME"] = Now, ["FAKETIME_ONLY_CMDS"] = "acrate",
                ["FAKETIME_DONT_FAKE_MONOTONIC"] = "1", ["FAKETIME_DISABLE_SHM"] = "1", ["NO_FAKE_STAT"] = "1", ["TZ"] = "UTC",
                ["LANG"] = "C.UTF-8", ["TERM"] = "xterm", ["NO_COLOR"] = "1", ["SHELL"] = "/bin/sh",
            },
        };
        Dictionary<string, (int, string)> told = [];
        foreach (var (name, line) in Story.Steps)
        {
            if (name == "!later") sandbox.PublishLater();
            else if (name == "!damage") File.Delete(sandbox["root", ".local", "bin", "scrim-paint"]);
            else told.Add(name, await RunAsync(sandbox, line, width));
        }

        return told;
    }

    private static async Task<(int ExitCode, string Text)> RunAsync(Sandbox sandbox, string line, int? width)
    {
        // It waits for other programs, which a clock that stands still does not let end.
        sandbox.Variables["LD_PRELOAD"] = line.StartsWith("card check", StringComparison.Ordinal) ? "" : FakeTime!;
        using var process = width is null ? sandbox.Start(Words(line)) : sandbox.StartOnTerminal(width.Value, line);
        using var over = new CancellationTokenSource();
        var answers = width is null ? Task.CompletedTask : AnswerAsync(process, over.Token);
        if (width is null) process.StandardInput.Close();
        var error = process.ReadErrorsAsync();
        var output = await process.ReadOutputAsync();
        await over.CancelAsync();
        await answers;
        process.EndInTime();
        var text = width is null && (await error).Length > 0 ? $"{output}--- error\n{await error}" : output + await error;
        return (process.ExitCode, Neutral(text.Replace("\r\n", "\n", StringComparison.Ordinal), sandbox.Folder));
    }

    /// <summary>Answers every question with Ctrl-D, which is no.</summary>
    private static async Task AnswerAsync(Process process, CancellationToken over)
    {
        try
        {
            while (true)
            {
                await Task.Delay(300, over);
                await process.StandardInput.WriteAsync("\u0004");
                await process.StandardInput.FlushAsync(over);
            }
        }
        catch (Exception end) when (end is OperationCanceledException or IOException)
        {
            // The program has ended.
        }
    }

    private static string[] Words(string line) => [.. Word().Matches(line).Select(match => match.Value.Replace("\"", ""))];

    /// <summary>
    /// The text without what is another on every machine and in every telling: the folder, free space, keys and what they sign.
    /// What takes their place is as long.
    /// </summary>
    private static string Neutral(string text, string folder)
    {
        text = text.Replace(folder, "/stage".PadRight(folder.Length, '-'), StringComparison.Ordinal);
        text = Hex().Replace(text, match => new string('x', match.Length));
        text = Free().Replace(text, "ROOM free");
        text = Captured().Replace(text, "captured on MACHINE,");
        text = text.Replace($"{Environment.MachineName} differs from", "MACHINE differs from", StringComparison.Ordinal);
        text = AfterDesktop().Replace(text, "");
        text = Signed().Replace(text, "ROOM");
        return Bare().Replace(text, match => new string('x', match.Length));
    }

    [GeneratedRegex("\"[^\"]*\"|[^ ]+", RegexOptions.ExplicitCapture, 1000)]
    private static partial Regex Word();

    [GeneratedRegex("\\b[0-9a-f]{64}\\b|\\b[0-9a-f]{12}(?=…)", RegexOptions.ExplicitCapture, 1000)]
    private static partial Regex Hex();

    [GeneratedRegex("\\b[0-9a-f]{40,63}\\b", RegexOptions.ExplicitCapture, 1000)]
    private static partial Regex Bare();

    [GeneratedRegex("captured on [^ ,]+,", RegexOptions.ExplicitCapture, 1000)]
    private static partial Regex Captured();

    /// <summary>Which programs the machine has for its desktop is its own affair.</summary>
    [GeneratedRegex("(?m)^afterwards: .*\n", RegexOptions.ExplicitCapture, 1000)]
    private static partial Regex AfterDesktop();

    [GeneratedRegex("[0-9.]+ [KMGT]iB free\\b", RegexOptions.ExplicitCapture, 1000)]
    private static partial Regex Free();

    /// <summary>Sizes of what holds signatures, which are not all of the same length.</summary>
    [GeneratedRegex(
        "[0-9.]+ KiB(?=, to [^ ]*\\.amberkit)|(?<=Paint frame: [0-9] apps, )[0-9.]+ KiB|(?<=files \\()[0-9.]+ KiB",
        RegexOptions.ExplicitCapture, 1000)]
    private static partial Regex Signed();
}
