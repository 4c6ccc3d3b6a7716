namespace AmberCrate.Cli.Tables;

/// <summary>
/// Lays a table out for a terminal. What does not fit leaves the line, in the order that its columns say, and goes to an
/// indented line below its row, or is left out. On a narrow terminal each row is a block. Nothing in a line is ever cut off.
/// </summary>
internal sealed class TableLayout
{
    private const int Indent = 4, Further = 6, BlockIndent = 2, Readable = 28, Narrow = 60, LeastSide = 14, Short = 30;

    private readonly TextTable _table;
    private readonly int _width;
    private readonly bool _isWhole;

    /// <summary>
    /// The widest that the first column may be. A row that needs more there has a line of its own for it, so that one long name
    /// does not make the whole table narrow.
    /// </summary>
    private int _mostOfKey = int.MaxValue;

    private TableLayout(TextTable table, int width, bool isWhole) => (_table, _width, _isWhole) = (table, width, isWhole);

    private IReadOnlyList<Column> Columns => _table.Shape.Columns;

    /// <summary>Lays a table out.</summary>
    /// <param name="table">The table.</param>
    /// <param name="width">How many columns the terminal has.</param>
    /// <param name="isWhole">Whether nothing is left out.</param>
    /// <returns>The lines, each as its pieces.</returns>
    public static IEnumerable<Cell[]> Lines(TextTable table, int width, bool isWhole)
    {
        if (table.Rows.Count == 0) return [];
        var layout = new TableLayout(table, width, isWhole);
        var lines = table.Shape.IsSideBySide ? layout.SideBySide() : layout.Divided() is var (inLine, below)
            ? layout.InLines(inLine, below)
            : layout.Blocks();
        return lines.Select(WithoutEnd);
    }

    /// <summary>A line without the spaces at its end.</summary>
    private static Cell[] WithoutEnd(Cell[] line)
    {
        var last = Array.FindLastIndex(line, cell => cell.Text.AsSpan().Trim(' ').Length > 0);
        return [.. line.Take(last).Append(last < 0 ? "" : line[last] with { Text = line[last].Text.TrimEnd(' ') })];
    }

    /// <summary>The columns that stay in the line and those that go below it; null if each row must be a block.</summary>
    private (List<int> InLine, List<int> Below)? Divided()
    {
        List<int> inLine = _table.Filled(), below = [];
        if (Needed(inLine) > _width && _width > Narrow) _mostOfKey = Math.Max(Short, _width / 4);
        while (Needed(inLine) > _width)
        {
            if (_width <= Narrow) return null;
            var leaves = inLine.MaxBy(column => Columns[column].Leaves);
            if (Columns[leaves].Leaves == 0) return null;
            inLine.Remove(leaves);
            if (_isWhole || !Columns[leaves].IsLeftOut) below.Add(leaves);
        }

        below.Sort();
        return (inLine, below);
    }

    private int Needed(List<int> columns)
    {
        var gaps = TextTable.Gap * (columns.Count - 1);
        return gaps + columns.Sum(column => column == columns[^1] && Columns[column].Kind == ColumnKind.Text
            ? Math.Max(Math.Min(Readable, WidthOf(column)), LongestWord(column))
            : WidthOf(column));
    }

    /// <summary>The width of the longest word in a column, which is broken only if it is longer than a line.</summary>
    private int LongestWord(int column) =>
        _table.Rows.Max(row => row[column].Text.Split(' ').Max(word => DisplayWidth.Measure(word)));

    private int WidthOf(int column) => Columns[column].Kind != ColumnKind.Key || _table.WidthOf(column) <= _mostOfKey
        ? _table.WidthOf(column)
        : _table.Rows.Select(row => DisplayWidth.Measure(row[column].Text)).Where(width => width <= _mostOfKey)
            .Append(DisplayWidth.Measure(Columns[column].Heading)).Max();

    private IEnumerable<Cell[]> InLines(List<int> columns, List<int> below)
    {
        var widths = columns.ConvertAll(WidthOf);
        widths[^1] = Math.Min(widths[^1], _width - widths.SkipLast(1).Sum(width => width + TextTable.Gap));
        yield return Placed(columns, widths, columns.ConvertAll(column => new Cell(Columns[column].Heading, Tone.Quiet)));
        Cell[]? last = null;
        foreach (var row in _table.Rows)
        {
            var cells = columns.ConvertAll(column =>
                Columns[column].IsSaidOnce && last?[column].Text == row[column].Text ? "" : row[column]);
            last = row;
            var key = columns.FindIndex(column => Columns[column].Kind == ColumnKind.Key);
            if (key >= 0 && DisplayWidth.Measure(cells[key].Text) > widths[key])
            {
                var alone = Placed(columns, widths, cells[..(key + 1)]);
                foreach (var line in CellWrapping.Lines(alone, _width, Indent, breaksWords: true)) yield return line;
                for (var at = 0; at <= key; at++) cells[at] = "";
            }

            var end = Wrapping.Lines(cells[^1].Text, widths[^1], widths[^1], breaksWords: true);
            for (var at = 0; at < end.Count; at++)
            {
                if (cells.TrueForAll(cell => cell.Text.Length == 0)) break;
                if (at > 0) cells = cells.ConvertAll(_ => new Cell(""));
                cells[^1] = row[columns[^1]] with { Text = end[at] };
                yield return Placed(columns, widths, cells);
            }

            foreach (var line in Below(row, below)) yield return line;
        }
    }

    /// <summary>One line of cells, each at its column.</summary>
    private Cell[] Placed(List<int> columns, List<int> widths, List<Cell> cells)
    {
        var last = cells.FindLastIndex(cell => cell.Text.Length > 0);
        return [.. cells.Take(last + 1).Select((cell, at) => cell with
        {
            Text = _table.IsToTheRight(columns[at])
                ? DisplayWidth.PadLeft(cell.Text, widths[at]) + (at == last ? "" : new string(' ', TextTable.Gap))
                : at == last ? cell.Text : DisplayWidth.Pad(cell.Text, widths[at] + TextTable.Gap),
        })];
    }

    /// <summary>What has left the line of a row: the facts together, then each text.</summary>
    private IEnumerable<Cell[]> Below(Cell[] row, List<int> below)
    {
        var facts = below.Where(column => Columns[column].Kind != ColumnKind.Text && row[column].Text.Length > 0)
            .Select(column => Named(Columns[column].Heading, row[column].Text)).ToList();
        var texts = below.Where(column => Columns[column].Kind == ColumnKind.Text && row[column].Text.Length > 0)
            .Select(column => row[column].Tone == Tone.Plain ? row[column] with { Tone = Tone.Quiet } : row[column]).ToList();
        if (facts.Count > 0)
        {
            facts.AddRange(texts.FindAll(IsShort).ConvertAll(text => Wrapping.KeepTogether(text.Text)));
            texts.RemoveAll(IsShort);
        }

        IEnumerable<Cell> parts = texts;
        if (facts.Count > 0) parts = parts.Prepend(new Cell(string.Join(" · ", facts), Tone.Quiet));
        foreach (var part in parts)
        {
            var indent = Indent;
            foreach (var line in Wrapping.Lines(part.Text, _width - Indent, _width - Further, breaksWords: true))
            {
                yield return [new string(' ', indent), part with { Text = line }];
                indent = Further;
            }
        }
    }

    private static bool IsShort(Cell text) => text.Tone == Tone.Quiet && DisplayWidth.Measure(text.Text) <= Short;

    /// <summary>A fact with its name. A short one stays on one line.</summary>
    private static string Named(string heading, string text) =>
        DisplayWidth.Measure(heading) + DisplayWidth.Measure(text) <= Short
            ? Wrapping.KeepTogether($"{heading} {text}") : $"{heading} {text}";

    /// <summary>Each row as a block: what tells it apart, then a line for each fact.</summary>
    private IEnumerable<Cell[]> Blocks()
    {
        var columns = _table.Filled().FindAll(column => _isWhole || !Columns[column].IsLeftOut);
        var key = columns.Find(column => Columns[column].Kind == ColumnKind.Key);
        var names = Math.Min(columns.Select(column => DisplayWidth.Measure(Columns[column].Heading)).Max(), _width / 3);
        foreach (var row in _table.Rows)
        {
            // The key of the row, after the word that several rows share.
            var title = row[key].Text.Length > 0 ? key : columns.Find(column => row[column].Text.Length > 0);
            List<int> head = [title];
            if (columns.FindIndex(column => Columns[column].IsSaidOnce && column != title) is var said and >= 0
                && DisplayWidth.Measure(row[columns[said]].Text) + TextTable.Gap
                    + DisplayWidth.Measure(row[title].Text) <= _width)
                head.Insert(0, columns[said]);
            Cell[] line = Joined(head.ConvertAll(column => row[column]));
            foreach (var part in CellWrapping.Lines(line, _width, BlockIndent, breaksWords: true)) yield return part;
            foreach (var column in columns.Where(column => !head.Contains(column) && row[column].Text.Length > 0))
                foreach (var fact in Fact(Columns[column].Heading, row[column], names)) yield return fact;
        }
    }

    private static Cell[] Joined(List<Cell> cells) =>
        [.. cells.Select((cell, at) => at == cells.Count - 1 ? cell : cell with { Text = cell.Text + "  " })];

    private IEnumerable<Cell[]> Fact(string name, Cell value, int names)
    {
        var hang = BlockIndent + names + TextTable.Gap;
        var lead = new Cell(new string(' ', BlockIndent) + DisplayWidth.Pad(name, names + TextTable.Gap), Tone.Quiet);
        return CellWrapping.Lines([lead, value], _width, hang, breaksWords: true);
    }

    /// <summary>Each app in a column of its own; on a narrow terminal one below the other.</summary>
    private IEnumerable<Cell[]> SideBySide()
    {
        var names = _table.Rows.Max(row => DisplayWidth.Measure(row[0].Text));
        return SideWidths(names) is { } widths
            ? [Head(names, widths), .. _table.Rows.SelectMany(row => Across(row, names, widths))]
            : OneBelowTheOther(names);
    }

    private Cell[] Head(int names, List<int> widths) =>
        [new string(' ', names + TextTable.Gap), .. widths.Select((width, at) => Padded(
            new Cell(Columns[at + 1].Heading, Tone.Strong), width, at == widths.Count - 1))];

    private static Cell Padded(Cell cell, int width, bool isEnd) =>
        isEnd ? cell : cell with { Text = DisplayWidth.Pad(cell.Text, width + TextTable.Gap) };

    private static IEnumerable<Cell[]> Across(Cell[] row, int names, List<int> widths)
    {
        var cells = widths.Select((width, at) => Wrapping.Lines(row[at + 1].Text, width, width, breaksWords: true)).ToList();
        for (var line = 0; line < cells.Max(lines => lines.Count); line++)
            yield return
            [
                row[0] with { Text = DisplayWidth.Pad(line == 0 ? row[0].Text : "", names + TextTable.Gap) },
                .. cells.Select((lines, at) => Padded(
                    row[at + 1] with { Text = line < lines.Count ? lines[line] : "" }, widths[at], at == widths.Count - 1)),
            ];
    }

    /// <summary>
    /// The widths of the apps' columns: what one does not need is shared by the others. Null if one would be too narrow to read.
    /// </summary>
    private List<int>? SideWidths(int names)
    {
        var count = Columns.Count - 1;
        var left = _width - names - (TextTable.Gap * count);
        var widths = new int[count];
        foreach (var (column, open) in Enumerable.Range(0, count).OrderBy(at => _table.WidthOf(at + 1))
            .Select((column, at) => (column, count - at)))
        {
            widths[column] = Math.Min(_table.WidthOf(column + 1), left / open);
            if (widths[column] < Math.Max(
                DisplayWidth.Measure(Columns[column + 1].Heading), Math.Min(LeastSide, _table.WidthOf(column + 1)))) return null;
            left -= widths[column];
        }

        return [.. widths];
    }

    private IEnumerable<Cell[]> OneBelowTheOther(int names)
    {
        for (var column = 1; column < Columns.Count; column++)
        {
            foreach (var line in CellWrapping.Lines(
                [new Cell(Columns[column].Heading, Tone.Strong)], _width, BlockIndent, breaksWords: true)) yield return line;
            foreach (var row in _table.Rows.Where(row => row[column].Text.Length > 0))
                foreach (var line in Fact(row[0].Text, row[column], names)) yield return line;
        }
    }
}
