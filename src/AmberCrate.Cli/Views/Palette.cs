using Spectre.Console;

namespace AmberCrate.Cli.Views;

/// <summary>Our colours: quiet, and amber for what needs attention; from the 256 of terminals.</summary>
internal static class Palette
{
    /// <summary>How a tone looks.</summary>
    public static Style StyleOf(Tone tone) => tone switch
    {
        Tone.Quiet => new Style(Color.FromInt32(245)),
        Tone.Strong => new Style(Color.FromInt32(223)),
        Tone.Attention => Attention,
        _ => Style.Plain,
    };

    /// <summary>What needs attention, and where a person is in a list.</summary>
    public static Style Attention { get; } = new(Color.FromInt32(214));

    /// <summary>Text in the colour of a tone, and the usual colour again behind it: ECMA-48 SGR.</summary>
    public static string Coloured(string text, Tone tone) => tone switch
    {
        Tone.Quiet => $"\u001b[38;5;245m{text}\u001b[39m",
        Tone.Strong => $"\u001b[38;5;223m{text}\u001b[39m",
        Tone.Attention => $"\u001b[38;5;214m{text}\u001b[39m",
        _ => text,
    };
}
