using Spectre.Console;

namespace AmberCrate.Cli.Views;

/// <summary>Rows under headings. Columns that are empty in every row are left out.</summary>
internal sealed class TextTable(params string[] headings)
{
    private const int Gap = 2;

    /// <summary>The rows.</summary>
    public List<Cell[]> Rows { get; } = [];

    /// <summary>The column that takes what space is left and wraps; the last unless set.</summary>
    public int Flexible { get; init; } = headings.Length - 1;

    /// <summary>Adds a row of as many cells as there are headings.</summary>
    public void Add(params Cell[] cells) => Rows.Add([.. cells.Select(cell => cell with { Text = Printable.Line(cell.Text) })]);

    /// <summary>Writes the table to a terminal.</summary>
    public void WriteTo(IAnsiConsole console)
    {
        var table = new Table { Border = TableBorder.None, ShowHeaders = true };
        var columns = Columns();
        foreach (var column in columns)
        {
            var flexible = column == Flexible;
            table.AddColumn(new TableColumn(new Text(headings[column], Palette.Of(Tone.Quiet))) { NoWrap = !flexible, Padding = new Padding(0, 0, Gap, 0) });
        }

        foreach (var row in Rows) table.AddRow(columns.Select(column => new Text(row[column].Text, Palette.Of(row[column].Tone))));
        console.Write(table);
    }

    /// <summary>Writes the table to a pipe: one record a line.</summary>
    public void WriteTo(TextWriter text)
    {
        var columns = Columns();
        var widths = columns.ConvertAll(column => Rows.Select(row => row[column].Text.Length).Append(headings[column].Length).Max());
        Write([.. columns.Select(column => headings[column])]);
        foreach (var row in Rows) Write([.. columns.Select(column => row[column].Text)]);

        void Write(List<string> cells) =>
            text.Write(string.Concat(cells.Select((cell, at) => cell.PadRight(widths[at] + Gap))).TrimEnd() + "\n");
    }

    private List<int> Columns() => [.. Enumerable.Range(0, headings.Length).Where(column => Rows.Exists(row => row[column].Text.Length > 0))];
}
