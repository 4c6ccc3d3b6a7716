namespace AmberCrate.Core.Drafting;

/// <summary>A file in a package.</summary>
/// <param name="Path">Its path in the shelf entry.</param>
/// <param name="IsProgram">Whether it may be executed and is a program or a script.</param>
/// <param name="PictureSide">For a square PNG picture its side in pixels; 0 for everything else.</param>
/// <param name="IsLink">Whether it is a link. A command may be one; other files are placed only where they are none.</param>
public sealed record PackedFile(string Path, bool IsProgram, int PictureSide = 0, bool IsLink = false)
{
    /// <summary>The last part of the path.</summary>
    public string Name => Path[(Path.LastIndexOf('/') + 1)..];
}
