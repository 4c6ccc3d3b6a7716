using System.Text.RegularExpressions;

namespace AmberCrate.Core.Tests;

/// <summary>What the pages say of files, tests and types is there.</summary>
public sealed partial class DocsTests
{
    private static readonly string Root = FloorsTests.RepositoryFolder;

    public static TheoryData<string> Pages =>
    [
        .. Directory.EnumerateFiles(Root, "*.md").Concat(
                Directory.EnumerateFiles(Path.Combine(Root, "docs"), "*.md", SearchOption.AllDirectories))
            .Select(path => Path.GetRelativePath(Root, path)).Order(StringComparer.Ordinal),
    ];

    [Theory]
    [MemberData(nameof(Pages))]
    public void Every_link_leads_to_a_file(string page)
    {
        var folder = Path.GetDirectoryName(Path.Combine(Root, page))!;
        Link().Matches(File.ReadAllText(Path.Combine(Root, page))).Select(match => match.Groups["target"].Value)
            .Where(target => !target.Contains("://", StringComparison.Ordinal))
            .Where(target => !Path.Exists(Path.Combine(folder, Uri.UnescapeDataString(target)))).ShouldBeEmpty();
    }

    [Theory]
    [MemberData(nameof(Pages))]
    public void Every_test_that_is_named_is_there(string page)
    {
        var tests = Sources("tests").Select(path => Path.GetFileNameWithoutExtension(path)).ToHashSet(StringComparer.Ordinal);
        TestName().Matches(File.ReadAllText(Path.Combine(Root, page))).Select(match => match.Groups["name"].Value)
            .Where(name => !tests.Contains(name)).ShouldBeEmpty();
    }

    /// <summary>The pages about the code name types and members as they are called there.</summary>
    [Theory]
    [InlineData("architecture.md")]
    [InlineData("searching.md")]
    [InlineData("planning.md")]
    [InlineData("fetching.md")]
    public void Every_type_that_a_page_names_is_there(string page)
    {
        string[] folders = ["src", "eng", "tests"];
        var words = folders.SelectMany(Sources).SelectMany(path => Word().Matches(File.ReadAllText(path)))
            .Select(match => match.Value).ToHashSet(StringComparer.Ordinal);
        CodeName().Matches(File.ReadAllText(Path.Combine(Root, "docs", page)))
            .SelectMany(match => match.Groups["name"].Value.Split('.', '/'))
            .Where(name => name.Length > 0 && char.IsAsciiLetterUpper(name[0]))
            .Where(name => !words.Contains(name) && !Directory.Exists(Path.Combine(Root, "src", $"AmberCrate.{name}")))
            .Where(name => !Directory.EnumerateDirectories(
                Path.Combine(Root, "src"), name, SearchOption.AllDirectories).Any()).ShouldBeEmpty();
    }

    /// <summary>The first page that a newcomer reads about the code is read in ten minutes.</summary>
    [Fact]
    public void The_architecture_stays_short() =>
        File.ReadAllText(Path.Combine(Root, "docs", "architecture.md"))
            .Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries).Length.ShouldBeLessThanOrEqualTo(1800);

    private static IEnumerable<string> Sources(string folder) => Directory.EnumerateFiles(
        Path.Combine(Root, folder), "*.cs", SearchOption.AllDirectories)
        .Where(path => !path.Contains("/obj/", StringComparison.Ordinal) && !path.Contains("/bin/", StringComparison.Ordinal));

    [GeneratedRegex(@"\]\((?<target>[^)#\s]+)", RegexOptions.ExplicitCapture, 1000)]
    private static partial Regex Link();

    [GeneratedRegex("`(?<name>[A-Z][A-Za-z]*Tests)`", RegexOptions.ExplicitCapture, 1000)]
    private static partial Regex TestName();

    [GeneratedRegex("`(?<name>[A-Z][A-Za-z./]*)`", RegexOptions.ExplicitCapture, 1000)]
    private static partial Regex CodeName();

    [GeneratedRegex("[A-Z][A-Za-z]*", RegexOptions.ExplicitCapture, 1000)]
    private static partial Regex Word();
}
