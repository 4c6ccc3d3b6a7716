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
    public async Task Help_and_the_readme_name_the_same_commands()
    {
        await using var sandbox = new Sandbox();
        var named = sandbox.Run("--help").Out.Split('\n').Where(line => line.StartsWith("  ", StringComparison.Ordinal)
            && !line.StartsWith("  --", StringComparison.Ordinal)
            && !line.StartsWith("  scrim", StringComparison.Ordinal))
            .Select(line => line.TrimStart().Split("  ")[0].Split(' ') is ["catalogue", var sub, ..]
                ? $"catalogue {sub}"
                : line.TrimStart().Split(' ')[0]).ToList();
        named.ShouldBe(
        [
            "search", "about", "install", "uninstall", "prefetch", "list", "due", "upgrade", "export", "equip", "retry",
            "settings", "catalogue add", "catalogue list", "catalogue refresh", "catalogue rank", "catalogue pause",
            "catalogue resume", "catalogue drop", "catalogue build",
        ]);
        var readme = File.ReadAllText(Path.Combine(RepositoryRoot(), "README.md"));
        foreach (var command in named) readme.ShouldContain($"`{command}", Case.Sensitive, $"the README should name {command}");
    }

    private static string RepositoryRoot()
    {
        var folder = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(folder, "AmberCrate.slnx"))) folder = Path.GetDirectoryName(folder)!;
        return folder;
    }
}
