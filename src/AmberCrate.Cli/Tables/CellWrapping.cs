namespace AmberCrate.Cli.Tables;

/// <summary>Breaks a line that is made of pieces into lines. What goes on is indented.</summary>
internal static class CellWrapping
{
    /// <summary>Breaks a line.</summary>
    /// <param name="pieces">Its pieces.</param>
    /// <param name="width">How many columns the terminal has.</param>
    /// <param name="indent">By how many columns each further line is indented.</param>
    /// <param name="breaksWords">Whether a word longer than a line is broken; otherwise its line is as long as the word.</param>
    public static IEnumerable<Cell[]> Lines(IReadOnlyList<Cell> pieces, int width, int indent, bool breaksWords)
    {
        var text = string.Concat(pieces.Select(piece => piece.Text));
        var isFirst = true;
        foreach (var range in Wrapping.Ranges(text, width, Math.Max(1, width - indent), breaksWords))
        {
            var (start, length) = range.GetOffsetAndLength(text.Length);
            List<Cell> line = isFirst || indent == 0 ? [] : [new string(' ', indent)];
            var at = 0;
            foreach (var piece in pieces)
            {
                var (from, to) = (Math.Max(start, at), Math.Min(start + length, at + piece.Text.Length));
                if (from < to) line.Add(piece with { Text = text[from..to] });
                at += piece.Text.Length;
            }

            isFirst = false;
            yield return [.. line];
        }
    }
}
