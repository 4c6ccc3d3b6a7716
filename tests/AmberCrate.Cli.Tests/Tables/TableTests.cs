using System.Reflection;
using AmberCrate.Cli.Tables;
using CsCheck;

namespace AmberCrate.Cli.Tests.Tables;

/// <summary>Every table that the program prints, with made-up rows, on terminals of every width.</summary>
public sealed class TableTests
{
    private static readonly string[] Vocabulary =
        ["security", "fix", "舞台照明", "cafe\u0301", "pinned", "1.2", "KiB", "후원", "by", "the", "needs-a-long-hyphenated-word", "·"];

    private static readonly Gen<(string Key, string Word, int[] Words, bool IsEmpty, bool IsWide)> Rows = Gen.Select(
        Gen.String[Gen.Char['a', 'z'], 1, 18], Gen.String[Gen.Char['a', 'z'], 1, 6], Gen.Int[0, 11].Array[0, 14], Gen.Bool,
        Gen.Bool);

    public static TheoryData<string> Names =>
        [.. typeof(Shapes).GetProperties(BindingFlags.Static | BindingFlags.Public).Select(property => property.Name)];

    [Theory]
    [MemberData(nameof(Names))]
    public void No_row_is_lost_and_each_has_its_own_words_at_every_width(string name)
    {
        var shape = (TableShape)typeof(Shapes).GetProperty(name)!.GetValue(null)!;
        Gen.Select(Rows.Array[1, 7], Gen.Int[40, 200], Gen.Bool).Sample(
            (rows, width, isWhole) =>
            {
                var table = new TextTable(shape);
                for (var at = 0; at < rows.Length; at++) table.Add(CellsOf(shape, rows[at], at));
                CheckTerminal(table, width, isWhole);
                CheckPipe(table);
            }, iter: 150);
    }

    [Fact]
    public void Apps_side_by_side_keep_every_word_at_every_width() =>
        Gen.Select(Rows.Array[1, 6], Gen.Int[2, 4], Gen.Int[40, 200]).Sample(
            (rows, apps, width) =>
            {
                var table = new TextTable(Shapes.SideBySide(Enumerable.Range(0, apps).Select(app => $"app{app}-name")));
                for (var at = 0; at < rows.Length; at++)
                    table.Add(
                    [
                        $"fact{at}", .. Enumerable.Range(0, apps).Select(app => (Cell)string.Join(
                            ' ', rows[at].Words.Select((word, place) => $"{Vocabulary[word]} w{at}x{app}x{place}."))),
                    ]);
                var lines = TextOf(TableLayout.Lines(table, width, isWhole: false));
                var all = string.Join('\n', lines);
                foreach (var line in lines) DisplayWidth.Measure(line).ShouldBeLessThanOrEqualTo(width, all);
                for (var app = 0; app < apps; app++) Count(all, $"app{app}-name").ShouldBe(1, all);
                foreach (var word in table.Rows.SelectMany(row => row.Skip(1))
                    .SelectMany(cell => cell.Text.Split(' ')).Where(word => word.StartsWith('w')))
                    Count(all, word).ShouldBe(1, all);
            }, iter: 400);

    private static Cell[] CellsOf(
        TableShape shape, (string Key, string Word, int[] Words, bool IsEmpty, bool IsWide) row, int at) =>
        [.. shape.Columns.Select((column, place) => (Cell)(column.Kind switch
        {
            ColumnKind.Key => $"k{at}-{(row.IsWide ? "舞台" : "")}{row.Key}",
            ColumnKind.Number when place != 0 => row.IsEmpty && place % 2 == 0 ? "" : $"{at}.{place}7 KiB",
            ColumnKind.Number => $"k{at}-",
            ColumnKind.Fact => row.IsEmpty && place % 2 == 1 && !column.IsSaidOnce ? "" : $"{row.Word}{at}x{place}",
            _ => string.Join(' ', row.Words.Select((word, nth) => $"{Vocabulary[word]} t{at}x{place}x{nth}.")),
        }))];

    private static void CheckTerminal(TextTable table, int width, bool isWhole)
    {
        var lines = TextOf(TableLayout.Lines(table, width, isWhole));
        var all = string.Join('\n', lines);
        foreach (var line in lines)
        {
            DisplayWidth.Measure(line).ShouldBeLessThanOrEqualTo(width, all);
            line.ShouldBe(line.TrimEnd(), all);
        }

        var starts = table.Rows
            .Select((_, at) => lines.FindIndex(line => line.Contains($"k{at}-", StringComparison.Ordinal))).ToList();
        starts.SequenceEqual(starts.Order()).ShouldBeTrue(all);
        for (var at = 0; at < table.Rows.Count; at++)
        {
            Count(all, $"k{at}-").ShouldBe(1, all);
            var end = at + 1 < starts.Count ? starts[at + 1] : lines.Count;
            var own = string.Join('\n', lines[starts[at]..end]);
            foreach (var (column, cell) in table.Shape.Columns.Zip(table.Rows[at]))
            {
                if ((column.IsLeftOut && !isWhole) || column.IsSaidOnce) continue;
                if (column.Kind is ColumnKind.Text) Squashed(own).ShouldContain(Squashed(cell.Text), Case.Sensitive, all);
                else own.ShouldContain(cell.Text, Case.Sensitive, all);
            }
        }
    }

    private static void CheckPipe(TextTable table)
    {
        var lines = table.Lines().ToList();
        lines.Count.ShouldBe(table.Rows.Count + 1);
        foreach (var (line, row) in lines.Skip(1).Zip(table.Rows))
            foreach (var cell in row) line.ShouldContain(cell.Text);
    }

    private static List<string> TextOf(IEnumerable<Cell[]> lines) =>
        [.. lines.Select(line => Wrapping.Printed(string.Concat(line.Select(cell => cell.Text))))];

    private static string Squashed(string text) => string.Concat(text.Where(c => !char.IsWhiteSpace(c)));

    private static int Count(string text, string part) => text.Split(part).Length - 1;
}
