using AmberCrate.Cli.Tables;
using Spectre.Console.Rendering;

namespace AmberCrate.Cli.Terminal;

/// <summary>
/// A line made of pieces that is written as long as it is: what a user copies from it must hold no line break of ours.
/// </summary>
/// <param name="pieces">The pieces, foreign text in them made safe already.</param>
internal sealed class RawLine(IReadOnlyList<Cell> pieces) : IRenderable
{
    public Measurement Measure(RenderOptions options, int maxWidth)
    {
        var width = Math.Min(maxWidth, pieces.Sum(piece => DisplayWidth.Measure(piece.Text)));
        return new Measurement(width, width);
    }

    public IEnumerable<Segment> Render(RenderOptions options, int maxWidth) =>
        [.. pieces.Select(piece => new Segment(piece.Text, Palette.StyleOf(piece.Tone))), Segment.LineBreak];
}
