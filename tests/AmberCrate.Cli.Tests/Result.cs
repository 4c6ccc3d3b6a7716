using System.Text.Json;

namespace AmberCrate.Cli.Tests;

/// <summary>How a run of the program ended. What is asserted is shown with command, both streams and the folder tree.</summary>
public sealed record Result(Sandbox Sandbox, string Command, int ExitCode, string Out, string Error)
{
    /// <summary>The document that was written; of the events of a run the last one.</summary>
    public JsonElement Json =>
        JsonDocument.Parse(
            Out.StartsWith("{\"event\"", StringComparison.Ordinal) ? Out.TrimEnd().Split('\n')[^1] : Out).RootElement;

    /// <summary>The lines about stages, which come in no certain order.</summary>
    public IReadOnlyList<string> Stages { get; init; } = [];

    /// <summary>Asserts the exit code, and that nothing was written to standard error.</summary>
    public Result ShouldEnd(int exitCode)
    {
        ShouldExitWith(exitCode);
        Error.ShouldBe("", Explain());
        return this;
    }

    /// <summary>Asserts exit code and the whole of standard output.</summary>
    public Result ShouldPrint(int exitCode, string output)
    {
        ShouldEnd(exitCode);
        Out.ShouldBe(output.ReplaceLineEndings("\n") + "\n", Explain());
        return this;
    }

    /// <summary>Asserts exit code and the whole of standard error, with nothing on standard output.</summary>
    public Result ShouldFail(int exitCode, string error)
    {
        ShouldBeRefused(exitCode, error);
        Out.ShouldBe("", Explain());
        return this;
    }

    /// <summary>Asserts exit code and the whole of standard error, where the plan has been shown before.</summary>
    public Result ShouldBeRefused(int exitCode, string error)
    {
        ShouldExitWith(exitCode);
        Error.ShouldBe(error.ReplaceLineEndings("\n") + "\n", Explain());
        return this;
    }

    /// <summary>Asserts the exit code and what is said to have happened, the first line of standard error.</summary>
    public Result ShouldRefuse(int exitCode, string what)
    {
        ShouldExitWith(exitCode);
        Error.Split('\n')[0].ShouldBe($"acrate: {what}", Explain());
        return this;
    }

    /// <summary>Asserts the exit code, where the test goes on to assert what was said.</summary>
    public Result ShouldExitWith(int exitCode)
    {
        ExitCode.ShouldBe(exitCode, Explain());
        return this;
    }

    private string Explain() =>
        $"{Command}\nended with {ExitCode}\n--- out\n{Out}--- error\n{Error}--- tree\n{string.Join('\n', Sandbox.Tree("."))}";
}
