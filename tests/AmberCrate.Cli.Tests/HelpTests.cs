using System.Text.Json;

namespace AmberCrate.Cli.Tests;

public sealed class HelpTests
{
    [Fact]
    public async Task Help_is_grouped_by_task_and_the_same_without_arguments()
    {
        await using var sandbox = new Sandbox();
        var help = sandbox.Run("--help").ShouldEnd(0).Out;
        sandbox.Run().ShouldEnd(0).Out.ShouldBe(help);
        sandbox.Run("-h").ShouldEnd(0).Out.ShouldBe(help);
        help.Split('\n').Where(line => line.Length > 0 && !line.StartsWith(' ')).ShouldBe([
            "acrate: desktop applications for workstations, from catalogues", "Find", "Install and remove", "Keep current",
            "Copy a machine", "Past runs", "Upkeep", "Catalogues", "For maintainers", "With every command",
            "An APP is an id, such as scrim-paint. It may name a release and a catalogue:",
            "acrate COMMAND --help tells more about one command.",
        ]);
        foreach (var option in new[] { "--all-users", "--json", "--root DIR", "--offline", "--no-colour" })
            help.ShouldContain($"\n  {option} ");
        sandbox.Run("--version").ShouldPrint(0, "acrate 0.1.0");
    }

    /// <summary>What eng/publish says of the native executable.</summary>
    internal static string Parts => Path.Combine(Path.GetDirectoryName(Sandbox.Program)!, "acrate.cdx.json");

    [Fact]
    public async Task The_packages_that_are_linked_in_are_named_by_the_program_and_by_its_list_of_parts()
    {
        await using var sandbox = new Sandbox();
        var told = sandbox.Run("--version", "--json").ShouldEnd(0).Json.GetProperty("parts").EnumerateArray().ToList();
        told.Select(part => part.GetProperty("name").GetString()).ShouldContain("OpenSSL");
        told.ShouldAllBe(part => part.GetProperty("version").GetString()!.Length > 0);
        foreach (var part in told)
            sandbox.Run("--version", "--verbose").ShouldEnd(0).Out.ShouldContain(
                $"  {part.GetProperty("name").GetString(),-14}{part.GetProperty("version").GetString()}, ");
        if (!File.Exists(Parts)) return;
        var packages = told.Select(part => part.GetProperty("package").GetString()).OfType<string>().ToList();
        var listed = JsonDocument.Parse(await File.ReadAllTextAsync(Parts, TestContext.Current.CancellationToken)).RootElement
            .GetProperty("components").EnumerateArray().Select(part => part.GetProperty("purl").GetString()!).ToList();
        packages.ShouldBe(listed.Where(package => package.StartsWith("pkg:deb/", StringComparison.Ordinal)));
        listed.ShouldContain(package => package.StartsWith("pkg:nuget/System.CommandLine@", StringComparison.Ordinal));
        listed.ShouldNotContain(package => package.Contains("Analyzer", StringComparison.Ordinal));
    }

    [Fact]
    public async Task Every_command_has_help_of_one_form_in_80_columns_and_a_place_in_the_documentation()
    {
        await using var sandbox = new Sandbox();
        var page = File.ReadAllText(Path.Combine(RepositoryRoot(), "docs", "commands.md"));
        var commands = sandbox.Run("--json").ShouldEnd(0).Json.GetProperty("commands").EnumerateArray().ToList();
        commands.Count.ShouldBeGreaterThan(15);
        foreach (var command in commands)
        {
            var name = command.GetProperty("name").GetString()!;
            page.ShouldContain($"`{name}", Case.Sensitive, $"docs/commands.md should tell of {name}");
            var help = sandbox.Run([.. name.Split(' '), "--help"]).ShouldEnd(0).Out;
            help.ShouldStartWith($"acrate {name}: ");
            foreach (var heading in new[]
            {
                "Form\n  acrate " + name, "Output\n", "Exit codes\n  0    all as asked", "Examples\n",
            })
                help.ShouldContain("\n" + heading, Case.Sensitive, name);
            help.Split('\n').ShouldAllBe(line => line.Length <= 80, name);
            help.Split("\n  acrate ").Length.ShouldBe(4, $"a form and two examples of {name}");
        }

        sandbox.Run("catalogue", "--help").ShouldEnd(0).Out.ShouldContain("\n  catalogue add NAME LOCATION");
    }

    [Theory]
    [InlineData("there is no command acrate instal; did you mean acrate install?", "instal", "scrim-paint")]
    [InlineData("there is no command acrate refresh; did you mean acrate catalogue refresh?", "refresh")]
    [InlineData("there is no command acrate catalogue refesh; did you mean acrate catalogue refresh?", "catalogue", "refesh")]
    [InlineData("there is no command acrate juggle", "juggle")]
    [InlineData(
        "acrate catalogue needs a command: add, list, about, refresh, rank, pause, resume, drop, build, sign, renew, keys, "
            + "delegate, mirror",
        "catalogue")]
    [InlineData("there is no option --license; did you mean --licence?", "search", "--license", "MIT")]
    [InlineData("there is no option --al-users; did you mean --all-users?", "catalogue", "add", "--al-users", "f", "DIR")]
    [InlineData("there is no option -?", "list", "-?")]
    [InlineData("there is no option --tranfers", "upgrade", "--tranfers=3")]
    [InlineData("LOCATION is missing; expected acrate catalogue add NAME LOCATION", "catalogue", "add", "guild")]
    [InlineData("no bundle is named", "equip")]
    [InlineData("\"b\" is one argument too many; expected acrate equip [BUNDLE]", "equip", "a", "b")]
    [InlineData("--limit takes a whole number, not \"many\"", "search", "--limit", "many")]
    [InlineData("--wait needs a value: --wait SECONDS", "upgrade", "--wait")]
    [InlineData("--title is given more than once", "export", "--title", "a", "--title", "b")]
    [InlineData("there is no command acrate [suggest]", "[suggest]")]
    [InlineData("there is no command acrate /?", "/?")]
    public async Task A_wrong_command_line_is_told_in_our_own_words(string says, params string[] arguments)
    {
        await using var sandbox = new Sandbox();
        var result = sandbox.Run(arguments);
        result.Error.Split('\n')[0].ShouldBe($"acrate: {says}");
        result.Error.ShouldContain("\n  next: acrate ");
        result.Out.ShouldBeEmpty();
        result.ShouldExitWith(2);
    }

    internal static string RepositoryRoot()
    {
        var folder = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(folder, "AmberCrate.slnx"))) folder = Path.GetDirectoryName(folder)!;
        return folder;
    }
}
