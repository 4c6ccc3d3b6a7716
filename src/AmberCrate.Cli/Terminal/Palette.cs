using AmberCrate.Cli.Tables;
using Spectre.Console;

namespace AmberCrate.Cli.Terminal;

/// <summary>
/// Our looks: quiet, bold, and amber for what needs a user; from the 256 colours of terminals. Both colours have a contrast of
/// about 4.5 to 1 on black and on white, so that it does not matter which ground a terminal has.
/// </summary>
internal static class Palette
{
    private const int Grey = 243, Amber = 130;

    /// <summary>How a tone looks.</summary>
    public static Style StyleOf(Tone tone) => tone switch
    {
        Tone.Quiet => new Style(Color.FromInt32(Grey)),
        Tone.Strong => new Style(decoration: Decoration.Bold),
        Tone.Attention => Attention,
        Tone.Plain => Style.Plain,
    };

    /// <summary>What needs attention, and where a user is in a list.</summary>
    public static Style Attention { get; } = new(Color.FromInt32(Amber), decoration: Decoration.Bold);

    /// <summary>Text in the looks of a tone, and the usual ones again behind it: ECMA-48 SGR.</summary>
    public static string Coloured(string text, Tone tone) => tone switch
    {
        Tone.Quiet => $"\u001b[38;5;{Grey}m{text}\u001b[39m",
        Tone.Strong => $"\u001b[1m{text}\u001b[22m",
        Tone.Attention => $"\u001b[1;38;5;{Amber}m{text}\u001b[22;39m",
        Tone.Plain => text,
    };
}
