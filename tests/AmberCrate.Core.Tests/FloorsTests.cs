using System.Text.RegularExpressions;

namespace AmberCrate.Core.Tests;

/// <summary>
/// The floors of docs/architecture.md: a folder may use only what stands above it in its list, and another project only
/// downwards.
/// </summary>
public sealed partial class FloorsTests
{
    private static readonly Dictionary<string, string[]> Floors = new()
    {
        ["Core"] =
        [
            "Values", "Problems", "Trust", "Versions", "Toml", "Formats", "Placements", "Requirements", "Cards", "CardFiles",
            "Drafting", "Trials", "Searching", "Catalogues", "Schedules", "Pins", "Machine", "Solving", "Bundles", "Offers",
            "Due", "Plans", "Planning", "Runs", "Comparing", "Inventories",
        ],
        ["Engine"] =
        [
            "SystemCalls", "Host", "Storage", "Layout", "Fetching", "Trust", "Decoding", "Archives", "Indexing",
            "Catalogues", "Records", "Observing", "Placing", "Installers", "Rights", "BundleFiles", "KitFiles", "Runs",
            "Inspecting", "Timers", "Sessions", "Drafting", "Publishing", "Cataloguing", "Searching", "Listing", "Due",
            "Removing", "Upgrading", "Installing", "Pinning", "Exporting", "PastRuns", "Checking", "Reclaiming", "Bundling",
            "Comparing", "Equipping", "Kits", "Scheduling", "Configuring",
        ],
        ["Cli"] =
        [
            "Texts", "Tables", "Terminal", "Shared", "Running", "CommandLine", "Listing", "Due", "Pinning", "Removing",
            "Exporting", "PastRuns", "Equipping", "Comparing", "Installing", "Upgrading", "Bundling", "Searching", "Kits",
            "Checking", "Reclaiming", "Configuring", "Publishing", "Cataloguing", "Drafting", "Scheduling", "Shell",
        ],
    };

    private const int MostFiles = 30;

    private static readonly string[] Projects = ["Core", "Engine", "Cli"];

    internal static string RepositoryFolder { get; } = FindRepository();

    public static TheoryData<string> ProjectNames => [.. Projects];

    [Theory]
    [MemberData(nameof(ProjectNames))]
    public void Every_folder_stands_on_a_floor(string project) =>
        Directory.EnumerateDirectories(FolderOf(project))
            .Select(folder => Path.GetFileName(folder))
            .Where(name => name is not ("bin" or "obj" or "Native"))
            .ShouldBe(Floors[project], ignoreOrder: true);

    [Theory]
    [MemberData(nameof(ProjectNames))]
    public void No_folder_has_more_files_than_one_can_read_through(string project) =>
        Directory.EnumerateDirectories(FolderOf(project)).Where(folder => Path.GetFileName(folder) is not ("bin" or "obj"))
            .Where(folder => Directory.GetFiles(folder, "*.cs").Length > MostFiles).Select(Path.GetFileName).ShouldBeEmpty();

    /// <summary>A command's folder has the same name in Engine and in Cli.</summary>
    [Fact]
    public void Every_task_has_the_same_name_in_engine_and_cli()
    {
        var rooms = Floors["Cli"].SkipWhile(folder => folder != "Listing").SkipLast(1);
        rooms.Except(Floors["Engine"]).ShouldBeEmpty();
    }

    [Theory]
    [MemberData(nameof(ProjectNames))]
    public void No_arrow_runs_up(string project) =>
        Arrows(project).Where(arrow => RunsUp(project, arrow)).Select(arrow => arrow.ToString()).ShouldBeEmpty();

    [Theory]
    [MemberData(nameof(ProjectNames))]
    public void No_folders_use_each_other_in_a_circle(string project)
    {
        var next = Arrows(project).Where(arrow => arrow.ToProject == project).ToLookup(arrow => arrow.From, arrow => arrow.To);
        foreach (var start in Floors[project]) Reached(start, next).ShouldNotContain(start);
    }

    [Theory]
    [InlineData("using AmberCrate.Engine.Records;", "Storage", true)]
    [InlineData("using AmberCrate.Engine.Host;", "Storage", false)]
    [InlineData("using static AmberCrate.Engine.Runs.Runner;", "Placing", true)]
    [InlineData("using AmberCrate.Cli.Tables;", "Timers", true)]
    [InlineData("var one = new Engine.Runs.Runner();", "Records", true)]
    [InlineData("using AmberCrate.Core.Runs;", "Host", false)]
    public void The_test_sees_an_arrow(string line, string folder, bool isUp) =>
        ArrowsOf($"namespace AmberCrate.Engine.{folder};\n{line}\n", "a.cs").Any(arrow => RunsUp("Engine", arrow)).ShouldBe(isUp);

    private static bool RunsUp(string project, Arrow arrow)
    {
        if (arrow.ToProject != project) return Array.IndexOf(Projects, arrow.ToProject) > Array.IndexOf(Projects, project);
        var floors = Floors[project];
        return Array.IndexOf(floors, arrow.To) is var to && (to < 0 || to > Array.IndexOf(floors, arrow.From));
    }

    private static HashSet<string> Reached(string start, ILookup<string, string> next)
    {
        var reached = new HashSet<string>();
        var open = new Queue<string>(next[start]);
        while (open.TryDequeue(out var folder))
        {
            if (!reached.Add(folder)) continue;
            foreach (var further in next[folder]) open.Enqueue(further);
        }

        return reached;
    }

    private static IEnumerable<Arrow> Arrows(string project) => Floors[project]
        .SelectMany(
            folder => Directory.EnumerateFiles(Path.Combine(FolderOf(project), folder), "*.cs", SearchOption.AllDirectories))
        .SelectMany(file => ArrowsOf(File.ReadAllText(file), Path.GetFileName(file)));

    private static IEnumerable<Arrow> ArrowsOf(string text, string file)
    {
        var from = Namespace().Match(text).Groups["folder"].Value;
        return Used().Matches(text)
            .Select(used => new Arrow(file, from, used.Groups["project"].Value, used.Groups["folder"].Value))
            .Where(arrow => arrow.To != from)
            .Distinct();
    }

    private static string FolderOf(string project) => Path.Combine(RepositoryFolder, "src", $"AmberCrate.{project}");

    private static string FindRepository()
    {
        var folder = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(folder, "AmberCrate.slnx"))) folder = Path.GetDirectoryName(folder)!;
        return folder;
    }

    [GeneratedRegex(@"^namespace AmberCrate\.(Core|Engine|Cli)\.(?<folder>\w+);",
        RegexOptions.Multiline | RegexOptions.ExplicitCapture, 1000)]
    private static partial Regex Namespace();

    /// <summary>What a using line names, or a name that is written out in full.</summary>
    [GeneratedRegex(@"(?<![\w.""/])(AmberCrate\.)?(?<project>Core|Engine|Cli)\.(?<folder>[A-Z]\w+)(?=[.;])",
        RegexOptions.ExplicitCapture, 1000)]
    private static partial Regex Used();

    private sealed record Arrow(string File, string From, string ToProject, string To);
}
