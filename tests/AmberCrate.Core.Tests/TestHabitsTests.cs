using System.Text.RegularExpressions;

namespace AmberCrate.Core.Tests;

/// <summary>What no test may do, since the whole suite would wait for ever, or fail on a busy machine.</summary>
public sealed partial class TestHabitsTests
{
    [Fact]
    public void Tests_read_programs_and_wait_for_them_for_a_limited_time() => Directory
        .EnumerateFiles(Path.Combine(FloorsTests.RepositoryFolder, "tests"), "*.cs", SearchOption.AllDirectories)
        .Where(file => !file.Contains("/obj/", StringComparison.Ordinal) && !file.Contains("/bin/", StringComparison.Ordinal)
            && Path.GetFileName(file) is not ("ProcessLimits.cs" or "TestHabitsTests.cs"))
        .SelectMany(file => Unlimited().Matches(File.ReadAllText(file))
            .Select(found => $"{Path.GetFileName(file)}: {found.Value}"))
        .ShouldBeEmpty("ProcessLimits has what to call instead");

    [GeneratedRegex(@"Standard(Output|Error)\s*\.ReadToEnd\w*|\.WaitForExit(Async)?\b", RegexOptions.ExplicitCapture, 10_000)]
    private static partial Regex Unlimited();
}
