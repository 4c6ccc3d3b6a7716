using System.Text.RegularExpressions;

namespace AmberCrate.Core.Tests;

public sealed partial class LineTests
{
    private const int Most = 130;

    /// <summary>What the program writes may be longer, where a test quotes it in a raw string.</summary>
    [Fact]
    public void No_line_of_code_is_longer_than_130_columns()
    {
        var root = FloorsTests.RepositoryFolder;
        var files = new[] { "src", "tests", "demo", "bench" }
            .SelectMany(folder => Directory.EnumerateFiles(Path.Combine(root, folder), "*.cs", SearchOption.AllDirectories))
            .Where(
                file => !file.Contains("/obj/", StringComparison.Ordinal) && !file.Contains("/bin/", StringComparison.Ordinal));
        files.SelectMany(file => Code(File.ReadAllText(file)).Split('\n').Index()
                .Where(line => line.Item.Length > Most)
                .Select(line => $"{Path.GetRelativePath(root, file)}:{line.Index + 1}"))
            .ShouldBeEmpty();
    }

    private static string Code(string text) =>
        RawText().Replace(text, raw => new string('\n', raw.Value.Count(letter => letter == '\n')));

    [GeneratedRegex("\"\"\"\\r?\\n.*?\"\"\"", RegexOptions.Singleline | RegexOptions.ExplicitCapture, 10_000)]
    private static partial Regex RawText();
}
