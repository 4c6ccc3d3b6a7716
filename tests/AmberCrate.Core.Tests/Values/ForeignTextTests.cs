using System.Text;
using AmberCrate.Core.Bundles;
using AmberCrate.Core.CardFiles;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Drafting;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Pins;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Toml;
using AmberCrate.Core.Trust;
using AmberCrate.Core.Values;
using CsCheck;

namespace AmberCrate.Core.Tests.Values;

/// <summary>Whatever reads a stranger's text says that it is malformed, and throws nothing else.</summary>
public sealed class ForeignTextTests
{
    private const int MostGrowth = 40;
    private static readonly TimeSpan Noise = TimeSpan.FromSeconds(3);

    /// <summary>Every reader of texts that strangers write, with a text that it reads.</summary>
    private static readonly Dictionary<string, (Action<byte[]> Read, string Sample)> Readers = new()
    {
        ["root"] = (bytes => UncheckedMetadata.Root(bytes), Signed("\"_type\":\"root\",\"keys\":{},\"roles\":{}")),
        ["timestamp"] = (bytes => UncheckedMetadata.Timestamp(bytes),
            Signed("\"_type\":\"timestamp\",\"meta\":{\"snapshot.json\":{}}")),
        ["snapshot"] = (bytes => UncheckedMetadata.Snapshot(bytes),
            Signed("\"_type\":\"snapshot\",\"meta\":{\"targets.json\":{}}")),
        ["targets"] = (bytes => UncheckedMetadata.Targets(bytes), Signed("\"_type\":\"targets\",\"targets\":{\"a\":{}}")),
        ["a glance at a role"] = (bytes => RoleSummary.Parse(bytes), Signed("\"_type\":\"targets\",\"targets\":{}")),
        ["entry document"] = (bytes => CatalogueDocument.Read(bytes),
            "{\"catalogue\":1,\"title\":\"a\",\"apps\":1,\"parts\":[]}"),
        ["line"] = (bytes => CatalogueLine.Read(bytes), "{\"id\":\"scrim\",\"type\":\"desktop-application\",\"name\":\"a\"}"),
        ["line of an app that is gone"] = (bytes => CatalogueLine.Read(bytes), "{\"gone\":\"scrim\"}"),
        ["card"] = (bytes => CardReader.Read(Text(bytes), "a.appcard.toml", []), "appcard = 1\nid = \"a\"\nname = \"\\u0041\"\n"),
        ["bundle"] = (
            bytes => BundleReader.Read(Text(bytes), "a.bundle.toml", []), "bundle = 1\n[[apps]]\nreference = \"scrim@4\"\n"),
        ["TOML"] = (bytes => TomlText.ReadAny(Text(bytes), "a.toml", []), "a = { b = [1, \"\\u0041\"] }\n"),
        ["metainfo"] = (bytes => MetainfoReader.Read(Text(bytes)), "<component><id>a</id><name>b</name></component>"),
        ["desktop entry"] = (bytes => _ = DesktopEntryText.Faults(Text(bytes)).Count(), "[Desktop Entry]\nName=a\nExec=a %U\n"),
        ["pin"] = (
            bytes => PinJson.Read(Text(bytes)), "{\"app\":\"a\",\"selector\":\"4.x\",\"since\":\"2026-01-01T00:00:00Z\"}"),
        ["record"] = (bytes => InstalledAppJson.Read(Text(bytes)), "{\"id\":\"scrim\",\"name\":\"a\",\"version\":\"1\"}"),
    };

    public static TheoryData<string> EveryReader => [.. Readers.Keys];

    private static readonly string[] Pieces =
    [
        "\\ud800", "\\udc00\\ud800", "\\u0000", "1e999", "-1", "null", "[[", "{{", "\"", "\\", "]]>", "&#0;", "<p>", "\n[", "=",
        "99999999999999999999", "true", "\"\"", "{}", "[]", "2026-02-30", "\r", "\u2028",
    ];

    [Theory]
    [MemberData(nameof(EveryReader))]
    public void Damaged_texts_are_malformed_for_the_reader_of(string reader)
    {
        var (read, sample) = Readers[reader];
        var whole = Encoding.UTF8.GetBytes(sample);
        (from at in Gen.Int[0, whole.Length]
         from length in Gen.Int[0, 6]
         from piece in Gen.Int[0, Pieces.Length + 2]
         from raw in Gen.Byte.Array[0, 4]
         select (byte[])
         [
             .. whole[..at], .. piece < Pieces.Length ? Encoding.UTF8.GetBytes(Pieces[piece]) : raw,
             .. whole[Math.Min(at + length, whole.Length)..],
         ]).Sample(bytes => RequireMalformed(read, bytes), iter: 2000);
    }

    [Theory]
    [MemberData(nameof(EveryReader))]
    public void Texts_without_end_are_malformed_soon_for_the_reader_of(string reader)
    {
        var (read, _) = Readers[reader];
        foreach (var (small, large) in Endless(1).Zip(Endless(10)))
        {
            // Ten times the text takes about ten times as long, and not a hundred times.
            var took = Took(small);
            Took(large).ShouldBeLessThan((took * MostGrowth) + Noise, $"{reader}: {large[..20]}");
        }

        TimeSpan Took(string text)
        {
            var begun = System.Diagnostics.Stopwatch.StartNew();
            RequireMalformed(read, Encoding.UTF8.GetBytes(text));
            return begun.Elapsed;
        }
    }

    private static string[] Endless(int size) =>
    [
        new string('[', 20_000 * size), string.Concat(Enumerable.Repeat("{\"a\":", 5_000 * size)),
        "<component>" + Nested("p", 1_600 * size) + "</component>", Keys(size), "appcard = 1\n" + Keys(size),
        "bundle = 1\n" + string.Concat(Enumerable.Range(0, 5_000 * size).Select(at => $"[[apps]]\nkey{at} = 1\n")),
        "a = " + new string('[', 10_000 * size),
        "[Desktop Entry]\n" + string.Concat(Enumerable.Repeat("Name=a\n", 10_000 * size)),
    ];

    private static string Keys(int size) =>
        string.Concat(Enumerable.Range(0, 20_000 * size).Select(at => $"key{at} = 1\n"));

    [Fact]
    public void The_hundredth_fault_of_a_file_is_the_last()
    {
        var faults = new List<FormatFault>();
        CardReader.Read(
            "appcard = 1\n" + string.Concat(Enumerable.Range(0, 5000).Select(at => $"key{at} = 1\n")), "a.appcard.toml", faults);
        faults.Count.ShouldBe(FormatFault.Most);
    }

    private static void RequireMalformed(Action<byte[]> read, byte[] bytes)
    {
        try
        {
            read(bytes);
        }
        catch (MalformedException fault)
        {
            fault.Message.ShouldNotContain("System.");
            fault.Message.ShouldNotContain("JsonElement");
        }
    }

    private static string Nested(string element, int times) =>
        string.Concat(Enumerable.Repeat($"<{element}>", times)) + "a" + string.Concat(Enumerable.Repeat($"</{element}>", times));

    private static string Text(byte[] bytes) => Encoding.UTF8.GetString(bytes);

    private static string Signed(string content) =>
        $"{{\"signed\":{{{content},\"spec_version\":\"1.0.0\",\"version\":1,"
            + $"\"expires\":\"2027-01-01T00:00:00Z\"}},\"signatures\":"
            + "[{\"keyid\":\"00\",\"sig\":\"00\"}]}";
}
