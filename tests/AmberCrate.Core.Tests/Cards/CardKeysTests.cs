using System.Text.Json;
using System.Text.RegularExpressions;
using AmberCrate.Core.CardFiles;
using AmberCrate.Core.Cards;

namespace AmberCrate.Core.Tests.Cards;

/// <summary>One table of keys drives readers, writer and documentation: no key may be left out of any of them.</summary>
public sealed partial class CardKeysTests
{
    /// <summary>A card that has every key, each with another value than it has where it is missing.</summary>
    private const string EveryKey = $$$"""
        appcard = 1
        id = "scrim-paint"
        type = "desktop-application"
        name = "Scrim Paint"
        summary = "Paint backdrops to scale"
        description = "Two\nlines"
        developer = { name = "Battenworks", id = "battenworks", confirmed = false }
        homepage = "https://scrim-paint.example"
        project_license = "MIT"
        categories = ["Graphics"]
        keywords = ["gauze"]
        mimetypes = ["image/x-scrim"]
        system = [
          { kind = "library", name = "libgauze.so.2", symbols = ["GAUZE_2.1"], deb = ["libgauze2>=1.4"], rpm = ["gauze-libs"] },
          { kind = "module", name = "yaml", of = "python3", pacman = ["python-yaml"] },
          { kind = "interpreter", name = "/usr/bin/python3", least = "3.11" },
        ]
        screenshots = [{ address = "https://scrim-paint.example/1.png", caption = "A sky" }]
        translations.de = { name = "Gazemaler", summary = "Malt Prospekte", keywords = ["Gaze"], description = "Zwei Zeilen" }
        sign_in = "optional"
        licence_key = "none"
        attention = []
        needs = ["batten-runtime@1..2"]
        conflicts = ["scrim-paint-classic"]
        protected = true
        self_updating = true
        settings = ["~/.config/scrim-paint"]
        system_packages = ["scrim-paint"]
        version_source = { file = "V", command = "scrim", arguments = ["-V"], desktop_entry = "scrim", behind = "version " }
        review = { state = "reviewed", date = 2026-09-01, by = "Guild" }

        [place]
        commands = [{ name = "scrim", path = "bin/scrim" }]
        desktop_entries = [{ name = "scrim", command = "scrim", arguments = "%F", path = "scrim.desktop", icon = "scrim" }]
        icons = [{ name = "scrim", path = "scrim.svg", size = "scalable" }]
        mime_types = [{ name = "scrim", path = "scrim.xml" }]
        manual_pages = [{ name = "scrim.1", path = "scrim.1" }]
        completions = [{ shell = "bash", command = "scrim", path = "scrim.bash" }]
        fonts = [{ name = "Scrim.ttf", path = "Scrim.ttf" }]
        autostart = [{ name = "scrim-tray", command = "scrim", arguments = "--tray" }]
        folders.python = ["lib/python"]
        folders.perl = ["lib/perl"]
        folders.data = ["share"]
        folders.typelibs = ["t"]
        folders.qt_plugins = ["q"]
        folders.libraries = ["lib"]
        schemas = ["share/glib-2.0/schemas"]
        borrows = ["batten-runtime"]
        check = { command = "scrim", arguments = ["--version"], output = "{version}", seconds = 3 }

        [[releases]]
        version = "4.1"
        date = 2026-01-02
        line = "lts"
        description = "News"
        urgency = "critical"
        withdrawn = "It loses sketches."
        needs = ["batten-runtime"]
        conflicts = []
        system = []
        place = {}

        [[releases.artifacts]]
        platform = "x86_64-linux-gnu"
        location = "https://files.example/scrim.run"
        mirrors = ["files/scrim.run"]
        format = "installer"
        sha256 = "{{{CardSamples.Digest}}}"
        download_size = 1234
        installed_size = 4321
        installer = { arguments = ["--into={folder}"], attended_arguments = ["--ask"], success_codes = [0, 3], restart_codes = [4], seconds = 30 }

        [[releases.artifacts]]
        platform = "any-linux-any"
        location = "files/scrim.tar.gz"
        format = "tar.gz"
        strip = 1
        sha256 = "{{{CardSamples.Digest}}}"
        download_size = 1234

        [[releases]]
        version = "4.0"
        date = 2026-01-01

        [[releases.artifacts]]
        platform = "any-linux-any"
        location = "files/scrim"
        format = "executable"
        filename = "start"
        sha256 = "{{{CardSamples.Digest}}}"
        download_size = 1234
        """;

    public static TheoryData<string> TableNames => [.. CardDocumentation.Tables.Select(table => table.Name)];

    [Theory]
    [MemberData(nameof(TableNames))]
    public void Every_documented_key_is_read_from_a_file_and_written_into_a_catalogue(string table)
    {
        // A mapped start cannot be confined, so that it excludes a check: a second card has it.
        var mapped = EveryKey.Replace("\ncheck = ", "\nmapped = [\"usr/share/scrim\"]\n#", StringComparison.Ordinal);
        using var line = JsonDocument.Parse(CardJson.Write(CardSamples.Read(EveryKey)));
        using var other = JsonDocument.Parse(CardJson.Write(CardSamples.Read(mapped)));
        var documented = KeyCell().Matches(MarkdownOf(table)).Select(row => row.Groups["key"].Value)
            .Where(key => key != AppCard.FormatKey);
        foreach (var name in table.Split(", ").Where(name => name != "releases.place"))
        {
            var path = name == CardDocumentation.Card ? [] : name.Split('.');
            Objects(line.RootElement, path).Concat(Objects(other.RootElement, path))
                .SelectMany(found => found.EnumerateObject().Select(pair => pair.Name)).Distinct()
                .ShouldBe(documented, ignoreOrder: true, name);
        }
    }

    [Fact]
    public void A_card_with_every_key_is_the_same_once_it_was_in_a_catalogue()
    {
        var line = CardJson.Write(CardSamples.Read(EveryKey));
        CardJson.Write(CardJson.Read(line)).ShouldBe(line);
        CardJson.Write(CardJson.Open(line, fault => fault)).ShouldBe(line);
    }

    [Theory]
    [InlineData("[place]")]
    [InlineData("[place]\ncommands = []\nfonts = []")]
    [InlineData("[review]\nstate = \"unreviewed\"")]
    [InlineData("")]
    public void What_says_no_more_than_silence_is_not_written(string ending) =>
        CardJson.Write(CardSamples.Read($"{CardSamples.Text("a", "1 2026-01-01")}{ending}\n"))
            .ShouldBe(CardJson.Write(CardSamples.With("a", "1 2026-01-01")));

    [Theory]
    [MemberData(nameof(TableNames))]
    public void The_page_on_cards_has_the_tables_of_the_code(string table)
    {
        var page = File.ReadAllText(Path.Combine(FloorsTests.RepositoryFolder, "docs", "formats", "app-card.md"));
        page.ShouldContain($"<!-- keys: {table} -->\n{MarkdownOf(table)}\n<!-- end -->\n", Case.Sensitive, "run eng/pages");
    }

    private static string MarkdownOf(string table) => CardDocumentation.Tables.Single(found => found.Name == table).Markdown;

    private static IEnumerable<JsonElement> Objects(JsonElement from, string[] path) => path switch
    {
        [] => [from],
        [var key, .. var rest] when from.TryGetProperty(key, out var inner) => inner.ValueKind == JsonValueKind.Array
            ? inner.EnumerateArray().SelectMany(item => Objects(item, rest))
            : Objects(inner, rest),
        _ => [],
    };

    [GeneratedRegex("^\\| `(?<key>\\w+)`", RegexOptions.Multiline | RegexOptions.ExplicitCapture, matchTimeoutMilliseconds: 1000)]
    private static partial Regex KeyCell();
}
