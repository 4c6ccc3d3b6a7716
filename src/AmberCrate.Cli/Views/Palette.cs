namespace AmberCrate.Cli.Views;

/// <summary>Our colours: quiet, and amber for what needs attention. Written as ECMA-48 SGR with the 256-colour extension of terminals.</summary>
internal static class Palette
{
    /// <summary>Text in the colour of a tone, and the usual colour again behind it.</summary>
    public static string Coloured(string text, Tone tone) => tone switch
    {
        Tone.Quiet => $"\u001b[38;5;245m{text}\u001b[39m",
        Tone.Strong => $"\u001b[38;5;223m{text}\u001b[39m",
        Tone.Attention => $"\u001b[38;5;214m{text}\u001b[39m",
        _ => text,
    };
}
