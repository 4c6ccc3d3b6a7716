namespace AmberCrate.Cli.Tests;

public sealed class HelpTests
{
    [Fact]
    public async Task Help_is_grouped_by_task_and_the_same_without_arguments()
    {
        await using var sandbox = new Sandbox();
        var help = sandbox.Run("--help").ShouldEnd(0).Out;
        sandbox.Run().ShouldEnd(0).Out.ShouldBe(help);
        help.Split('\n').Where(line => line.Length > 0 && !line.StartsWith(' ')).ShouldBe([
            "acrate: desktop applications for workstations, from catalogues", "Find", "Put on", "Keep current", "Carry over",
            "Records", "Upkeep", "Catalogues", "Everywhere",
            "An APP is an id, such as scrim-paint; for install it may name a release and a catalogue too:",
            "acrate COMMAND --help tells more about one command.",
        ]);
        foreach (var option in new[] { "--everyone", "--json", "--root DIR", "--offline", "--no-colour" })
            help.ShouldContain($"\n  {option} ");
        sandbox.Run("--version").ShouldPrint(0, "acrate 0.1.0");
        sandbox.Run("install", "--help").ShouldEnd(0).Out.ShouldContain("--list-file");
    }

    [Fact]
    public async Task The_documentation_tells_of_every_command_in_the_help()
    {
        await using var sandbox = new Sandbox();
        var named = sandbox.Run("--help").Out.Split('\n').Where(line => line.StartsWith("  ", StringComparison.Ordinal)
            && !line.StartsWith("  --", StringComparison.Ordinal)
            && !line.StartsWith("  scrim", StringComparison.Ordinal))
            .Select(line => line.TrimStart().Split("  ")[0].Split(' ') is ["catalogue", var sub, ..]
                ? $"catalogue {sub}"
                : line.TrimStart().Split(' ')[0]).ToList();
        named.Count.ShouldBeGreaterThan(15);
        named.ShouldBeUnique();
        var page = File.ReadAllText(Path.Combine(RepositoryRoot(), "docs", "commands.md"));
        foreach (var command in named) page.ShouldContain($"`{command}", Case.Sensitive, $"docs/commands.md should name {command}");
    }

    private static string RepositoryRoot()
    {
        var folder = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(folder, "AmberCrate.slnx"))) folder = Path.GetDirectoryName(folder)!;
        return folder;
    }
}
