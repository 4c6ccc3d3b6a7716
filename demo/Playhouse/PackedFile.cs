using System.Text;

namespace AmberCrate.Playhouse;

/// <summary>One file to be packed.</summary>
/// <param name="Path">Its path inside the archive.</param>
/// <param name="Content">Its bytes.</param>
/// <param name="IsProgram">Whether it may be executed.</param>
public sealed record PackedFile(string Path, byte[] Content, bool IsProgram)
{
    public static PackedFile Program(string path, string text) => new(path, Encoding.UTF8.GetBytes(text), true);

    public static PackedFile Plain(string path, string text) => new(path, Encoding.UTF8.GetBytes(text), false);
}
