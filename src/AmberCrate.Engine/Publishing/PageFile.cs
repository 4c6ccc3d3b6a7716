namespace AmberCrate.Engine.Publishing;

/// <summary>A file of a catalogue's pages.</summary>
/// <param name="Path">Its path in the published folder.</param>
/// <param name="Content">Its bytes.</param>
public sealed record PageFile(string Path, byte[] Content)
{
    /// <summary>The page that leads to all others.</summary>
    public const string First = "index.html";
}
