namespace AmberCrate.Cli.Tables;

/// <summary>A piece of text with its tone.</summary>
internal readonly record struct Cell(string Text, Tone Tone = Tone.Plain)
{
    public static implicit operator Cell(string? text) => new(text ?? "");
}
