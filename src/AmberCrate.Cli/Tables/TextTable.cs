namespace AmberCrate.Cli.Tables;

/// <summary>Rows under headings. Columns that are empty in every row are left out.</summary>
/// <param name="shape">The columns.</param>
internal sealed class TextTable(TableShape shape)
{
    /// <summary>How many spaces are between two columns.</summary>
    public const int Gap = 2;

    /// <summary>The columns.</summary>
    public TableShape Shape => shape;

    /// <summary>The rows.</summary>
    public List<Cell[]> Rows { get; } = [];

    /// <summary>Adds a row of as many cells as there are columns.</summary>
    public void Add(params Cell[] cells)
    {
        if (cells.Length != shape.Columns.Count)
            throw new ArgumentException($"{cells.Length} cells for {shape.Columns.Count} columns", nameof(cells));
        var row = new Cell[cells.Length];
        for (var at = 0; at < cells.Length; at++) row[at] = cells[at] with { Text = Printable.Line(cells[at].Text).Trim(' ') };
        Rows.Add(row);
    }

    /// <summary>Lays the table out for a pipe: aligned columns, each record on one line.</summary>
    public IEnumerable<string> Lines()
    {
        var columns = Filled();
        var widths = columns.Select(WidthOf).ToList();
        yield return Line([.. shape.Columns.Select(column => column.Heading)]);
        foreach (var row in Rows) yield return Line([.. row.Select(cell => cell.Text)]);

        string Line(string[] texts)
        {
            var end = columns.FindLastIndex(column => texts[column].Length > 0);
            return string.Concat(columns.Take(end + 1).Select((column, at) => Set(column, texts[column], widths[at], at == end)));
        }

        string Set(int column, string text, int width, bool isEnd) =>
            IsToTheRight(column) ? DisplayWidth.PadLeft(text, width) + (isEnd ? "" : new string(' ', Gap))
            : isEnd ? text
            : DisplayWidth.Pad(text, width + Gap);
    }

    /// <summary>The columns that are not empty.</summary>
    public List<int> Filled() => [.. Enumerable.Range(0, shape.Columns.Count).Where(column => Natural(column) > 0)];

    /// <summary>The width of a column with its heading.</summary>
    public int WidthOf(int column) => Math.Max(DisplayWidth.Measure(shape.Columns[column].Heading), Natural(column));

    /// <summary>Whether a column is set to the right.</summary>
    public bool IsToTheRight(int column) => shape.Columns[column].Kind == ColumnKind.Number;

    /// <summary>The width of what stands in a column below its heading; 0 if that is nothing.</summary>
    private int Natural(int column) => Rows.Count == 0 ? 0 : Rows.Max(row => DisplayWidth.Measure(row[column].Text));
}
