using Spectre.Console;
using Spectre.Console.Rendering;

namespace AmberCrate.Cli.Views;

/// <summary>
/// Rows under headings. Columns that are empty in every row are left out. In a pipe a record is one line. On a terminal the last
/// column wraps;
/// where the room that is left is too little to read, it goes on lines of its own below its row.
/// </summary>
internal sealed class TextTable(params string[] headings)
{
    private const int Gap = 2, Indent = 4, Readable = 28;

    private readonly int _last = headings.Length - 1;

    /// <summary>Whether, on a terminal, every column may wrap, and not the last one only.</summary>
    public bool IsEven { get; init; }

    /// <summary>The headings of columns that hold sizes, counts or times: they are set to the right, to be compared.</summary>
    public IReadOnlyCollection<string> ToTheRight { get; init; } = [];

    /// <summary>The rows.</summary>
    public List<Cell[]> Rows { get; } = [];

    /// <summary>Adds a row of as many cells as there are headings.</summary>
    public void Add(params Cell[] cells)
    {
        var row = new Cell[cells.Length];
        for (var at = 0; at < cells.Length; at++) row[at] = cells[at] with { Text = Printable.Line(cells[at].Text) };
        Rows.Add(row);
    }

    /// <summary>Lays the table out for a pipe: aligned columns, each record on one line.</summary>
    public IEnumerable<string> Lines()
    {
        var columns = Columns();
        var widths = columns.Select(column => Math.Max(headings[column].Length, WidthOf(column))).ToList();
        yield return Line(headings);
        foreach (var row in Rows) yield return Line([.. row.Select(cell => cell.Text)]);

        string Line(string[] texts)
        {
            var end = columns.FindLastIndex(column => texts[column].Length > 0);
            return string.Concat(columns.Take(end + 1).Select((column, at) => Set(column, texts[column], widths[at], at == end)));
        }

        string Set(int column, string text, int width, bool isEnd) =>
            ToTheRight.Contains(headings[column]) ? DisplayWidth.PadLeft(text, width) + (isEnd ? "" : new string(' ', Gap))
            : isEnd ? text
            : DisplayWidth.Pad(text, width + Gap);
    }

    /// <summary>Lays the table out for a terminal.</summary>
    /// <param name="width">How many columns the terminal has.</param>
    public IEnumerable<IRenderable> Renderables(int width)
    {
        var columns = Columns();
        var left = width - columns.Where(column => column != _last)
            .Sum(column => Math.Max(headings[column].Length, WidthOf(column)) + Gap);
        if (IsEven || !columns.Contains(_last) || left >= Math.Min(Readable, WidthOf(_last))) return [Table(columns, Rows)];
        columns.Remove(_last);
        return WithLastBelow(columns, width);
    }

    private IEnumerable<IRenderable> WithLastBelow(List<int> columns, int width)
    {
        // Each row of the table is one line then, since none of these columns wraps.
        var options = RenderOptions.Create(AnsiConsole.Console);
        var lines = Segment.SplitLines(((IRenderable)Table(columns, Rows)).Render(options, width));
        yield return new Segments(lines[0]);
        for (var at = 0; at < Rows.Count; at++)
        {
            yield return new Segments(lines[at + 1]);
            if (Rows[at][_last].Text.Length > 0)
                yield return new Padder(Written(Rows[at][_last] with { Tone = Tone.Quiet }), new Padding(Indent, 0, 0, 0));
        }
    }

    private Table Table(List<int> columns, List<Cell[]> rows)
    {
        var table = new Table { Border = TableBorder.None, ShowHeaders = true };
        foreach (var column in columns)
        {
            var isEnd = column == columns[^1];
            table.AddColumn(new TableColumn(Written(new Cell(headings[column], IsEven ? Tone.Strong : Tone.Quiet)))
            {
                NoWrap = !IsEven && column != _last, Padding = new Padding(0, 0, isEnd ? 0 : Gap, 0),
                Alignment = ToTheRight.Contains(headings[column]) ? Justify.Right : Justify.Left,
            });
        }

        foreach (var row in rows) table.AddRow(columns.Select(column => Written(row[column])));
        return table;
    }

    private static Text Written(Cell cell) => new(cell.Text, Palette.StyleOf(cell.Tone));

    /// <summary>The columns in which anything stands.</summary>
    private List<int> Columns() => [.. Enumerable.Range(0, headings.Length).Where(column => WidthOf(column) > 0)];

    /// <summary>The width of what stands in a column below its heading; 0 where that is nothing.</summary>
    private int WidthOf(int column) => Rows.Count == 0 ? 0 : Rows.Max(row => DisplayWidth.Of(row[column].Text));

    /// <summary>A line that has been laid out already.</summary>
    private sealed class Segments(IEnumerable<Segment> segments) : IRenderable
    {
        public Measurement Measure(RenderOptions options, int maxWidth) => new(maxWidth, maxWidth);

        public IEnumerable<Segment> Render(RenderOptions options, int maxWidth) => [.. segments, Segment.LineBreak];
    }
}
