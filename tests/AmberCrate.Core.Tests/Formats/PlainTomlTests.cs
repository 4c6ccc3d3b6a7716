using System.Text;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Toml;
using CsCheck;

namespace AmberCrate.Core.Tests.Formats;

public sealed class PlainTomlTests
{
    private static readonly string[] Pieces =
    [
        "a = \"x\"", "a = 'x'", "b = 12", "b = 012", "b = -3", "c = 2026-11-26", "c = 2026-11-26 10:00:00", "c = 2026-13-26",
        "d = true", "[t]", "[[l]]", "[t.u]", "[l.u]", "[[l.m]]", "e = [\"x\", 1]", "e = [\"x\",]", "e = [",
        "f = { a = \"x\", b = 2 }",
        "f = {}",
        "f = { a = 1, }", "g = \"a\\n\"", "g = \"\"", "g = \"\"\"\nx\"\"\"", "# comment", "  # more", "", "h.i = 1", "\"j\" = 1",
        "k = \"é\"", "k = \"a # b\" # c", "m = 1.5", "[ t ]", "[f.a]", "n = \"x\" y", "o=\"x\"", "\t p\t=\t1\t", "q = \u007f",
        "[a]",
    ];

    [Fact]
    public void Whatever_it_reads_the_full_reader_reads_the_same() =>
        Gen.Int[0, Pieces.Length - 1].List[0, 9].Select(Gen.Bool).Sample((picks, hasEnd) =>
        {
            var text = string.Join('\n', picks.Select(at => Pieces[at])) + (hasEnd ? "\n" : "");
            if (PlainToml.TryRead(text) is not { } plain) return;
            var faults = new List<FormatFault>();
            var full = TomlText.ReadAny(text, "x", faults);
            faults.ShouldBeEmpty(text);
            Shown(plain).ShouldBe(Shown(full!), text);
        }, iter: 20_000);

    [Theory]
    [InlineData("[[apps]]\nreference = \"guild:a@1.x\"   # why\nversion = \"1.2\"\npin = { to = \"1.2\", until = 2026-12-31 }\n")]
    [InlineData("bundle = 1\nbuilds_on = [\"a\", \"b\"]\n\n[captured]\ndate = 2026-11-26\n")]
    public void What_we_write_is_plain(string text) => PlainToml.TryRead(text).ShouldNotBeNull();

    [Fact]
    public void The_cards_of_the_playhouse_read_the_same_either_way()
    {
        var world = Path.Combine(FloorsTests.RepositoryFolder, "demo", "Playhouse", "world");
        foreach (var file in Directory.EnumerateFiles(world, "*.toml", SearchOption.AllDirectories))
        {
            var text = File.ReadAllText(file);
            if (PlainToml.TryRead(text) is { } plain) Shown(plain).ShouldBe(Shown(TomlText.ReadAny(text, file, [])!), file);
        }
    }

    private static string Shown(TomlValue value)
    {
        var text = new StringBuilder();
        Show(value, text);
        return text.ToString();
    }

    private static void Show(TomlValue value, StringBuilder text)
    {
        switch (value)
        {
            case TomlTable table:
                text.Append($"{{{table.Line} ");
                foreach (var (key, inner) in table.Entries)
                {
                    text.Append($"{key}=");
                    Show(inner, text);
                }

                text.Append('}');
                break;
            case TomlArray array:
                text.Append($"[{array.Line} ");
                foreach (var inner in array.Items) Show(inner, text);
                text.Append(']');
                break;
            default:
                text.Append(value).Append(';');
                break;
        }
    }
}
