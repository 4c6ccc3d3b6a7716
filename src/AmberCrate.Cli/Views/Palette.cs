using Spectre.Console;

namespace AmberCrate.Cli.Views;

/// <summary>Our colours: quiet, and amber for what needs attention.</summary>
internal static class Palette
{
    private static readonly Color Amber = Color.FromInt32(214);
    private static readonly Color Sand = Color.FromInt32(223);
    private static readonly Color Stone = Color.FromInt32(245);

    public static Style Of(Tone tone) => tone switch
    {
        Tone.Quiet => new Style(Stone),
        Tone.Strong => new Style(Sand),
        Tone.Attention => new Style(Amber),
        _ => Style.Plain,
    };
}
