namespace AmberCrate.Cli.Views;

/// <summary>
/// Rows under headings. Columns that are empty in every row are left out. On a terminal the last column takes what
/// space is left and wraps; where that is too little to read, it goes on lines of its own below its row.
/// </summary>
internal sealed class TextTable(params string[] headings)
{
    private const int Gap = 2;
    private const int Readable = 28;

    private readonly int _last = headings.Length - 1;

    /// <summary>Whether, on a terminal where not all fits, the columns behind the first share the space evenly, and each wraps.</summary>
    public bool IsEven { get; init; }

    /// <summary>The rows.</summary>
    public List<Cell[]> Rows { get; } = [];

    /// <summary>Adds a row of as many cells as there are headings.</summary>
    public void Add(params Cell[] cells)
    {
        var row = new Cell[cells.Length];
        for (var at = 0; at < cells.Length; at++) row[at] = cells[at] with { Text = Printable.Line(cells[at].Text) };
        Rows.Add(row);
    }

    /// <summary>Lays the table out.</summary>
    /// <param name="width">The columns there are; null for a pipe, where a record is one line however long.</param>
    /// <param name="write">Takes pieces of lines, and line breaks.</param>
    public void Write(int? width, Action<string, Tone> write)
    {
        if (IsEven && width is { } space && WriteEvenly(space, write)) return;
        var columns = new List<int>();
        var widths = new int[headings.Length];
        var left = width;
        for (var column = 0; column < headings.Length; column++)
        {
            widths[column] = WidthOf(column);
            if (widths[column] == 0) continue;
            columns.Add(column);
            widths[column] = Math.Max(widths[column], headings[column].Length);
            if (column != _last) left -= widths[column] + Gap;
        }

        var fits = left is null || widths[_last] <= left;
        var below = !fits && left < Readable;
        if (below) columns.Remove(_last);

        WriteLine(columns, widths, column => new Cell(headings[column], Tone.Quiet), write);
        foreach (var row in Rows)
        {
            var lines = fits || below ? [row[_last].Text] : WordWrap.Lines(row[_last].Text, left!.Value).ToArray();
            WriteLine(columns, widths, column => column == _last ? row[column] with { Text = lines[0] } : row[column], write);
            foreach (var more in lines.Skip(1)) write(new string(' ', width!.Value - left!.Value) + more + "\n", row[_last].Tone);
            if (!below || row[_last].Text.Length == 0) continue;
            foreach (var line in WordWrap.Lines(row[_last].Text, width!.Value - (2 * Gap))) write(new string(' ', 2 * Gap) + line + "\n", Tone.Quiet);
        }
    }

    /// <summary>Writes columns of one width; false where all fits as it is, or where there would be nothing to read.</summary>
    private bool WriteEvenly(int width, Action<string, Tone> write)
    {
        var first = Rows.Max(row => DisplayWidth.Of(row[0].Text));
        var each = ((width - first) / _last) - Gap;
        var natural = Enumerable.Range(1, _last).Select(column => Rows.Max(row => DisplayWidth.Of(row[column].Text)));
        if (each < Readable / 2 || natural.Sum(column => column + Gap) + first <= width) return false;
        Cell[] titles = [.. headings.Select(heading => new Cell(heading, Tone.Strong))];
        foreach (var row in Rows.Prepend(titles))
        {
            var lines = row.Select((cell, column) => column == 0 ? [cell.Text] : WordWrap.Lines(cell.Text, each).SelectMany(line => DisplayWidth.Pieces(line, each)).ToArray()).ToArray();
            for (var line = 0; line < lines.Max(cell => cell.Length); line++)
            {
                var end = Array.FindLastIndex(lines, cell => line < cell.Length && cell[line].Length > 0);
                for (var column = 0; column <= end; column++)
                {
                    var text = line < lines[column].Length ? lines[column][line] : "";
                    write(column == end ? text : DisplayWidth.Pad(text, (column == 0 ? first : each) + Gap), row[column].Tone);
                }

                write("\n", Tone.Plain);
            }
        }

        return true;
    }

    /// <summary>The width of what stands in a column below its heading; 0 where that is nothing.</summary>
    private int WidthOf(int column)
    {
        var width = 0;
        foreach (var row in Rows) width = Math.Max(width, DisplayWidth.Of(row[column].Text));
        return width;
    }

    private static void WriteLine(List<int> columns, int[] widths, Func<int, Cell> cell, Action<string, Tone> write)
    {
        var end = columns.FindLastIndex(column => cell(column).Text.Length > 0);
        for (var at = 0; at <= end; at++)
        {
            var (text, tone) = cell(columns[at]);
            write(at == end ? text : DisplayWidth.Pad(text, widths[columns[at]] + Gap), tone);
        }

        write("\n", Tone.Plain);
    }
}
