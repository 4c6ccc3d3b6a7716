using AmberCrate.Tests;

namespace AmberCrate.Cli.Tests.Approved;

/// <summary>
/// Everything that the program prints in a long story, on a terminal of 80 and of 120 columns and in a pipe, is as approved in
/// tests/approved. eng/approve writes these files again; what has changed in them is read before it is committed.
/// </summary>
public sealed class ApprovedTests(Tellings tellings) : IClassFixture<Tellings>
{
    public static string Folder { get; } = Path.Combine(HelpTests.RepositoryRoot(), "tests", "approved");

    public static TheoryData<string> Names =>
        [.. Story.Steps.Select(step => step.Name).Where(name => !name.StartsWith('!'))];

    [Theory]
    [MemberData(nameof(Names))]
    public void What_is_printed_was_approved(string name)
    {
        var path = Path.Combine(Folder, name + ".txt");
        var told = tellings.Of(name);
        if (Environment.GetEnvironmentVariable("ACRATE_APPROVE") == "1") File.WriteAllText(path, told);
        told.ShouldBe(File.Exists(path) ? File.ReadAllText(path) : "nothing was approved yet", $"eng/approve, then read {path}");
    }

    [Theory]
    [InlineData(80)]
    [InlineData(120)]
    public void No_line_is_broken_by_the_terminal_itself(int width) => tellings.TooLong(width).ShouldBeEmpty();

    [Fact]
    public void Every_command_is_in_the_story_and_every_approved_text_is_of_a_step()
    {
        using var process = System.Diagnostics.Process.Start(new System.Diagnostics.ProcessStartInfo(Sandbox.Program, ["--json"])
        {
            RedirectStandardOutput = true, UseShellExecute = false,
        })!;
        using var document = System.Text.Json.JsonDocument.Parse(process.ReadOutput());
        document.RootElement.GetProperty("commands").EnumerateArray().Select(one => one.GetProperty("name").GetString()!)
            .Where(name => !Story.LeftOut.ContainsKey(name)
                && !Story.Steps.Any(step => $"{step.Line} ".StartsWith(name + " ", StringComparison.Ordinal)))
            .ShouldBeEmpty();
        Directory.GetFiles(Folder).Select(file => Path.GetFileNameWithoutExtension(file)).Order()
            .ShouldBe(Story.Steps.Select(step => step.Name).Where(name => !name.StartsWith('!')).Order());
    }
}
