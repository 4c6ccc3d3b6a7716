using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Host;

/// <summary>A file that a user names for a command to read.</summary>
public static class InputFile
{
    /// <summary>What a user writes for standard input, or for standard output where something is written.</summary>
    public const string Standard = "-";

    /// <summary>The path of what a user named: standard input has one, too.</summary>
    public static string PathOf(string named) => named == Standard ? "/dev/stdin" : named;

    /// <summary>
    /// Whether what is at a path can be read once only: a pipe, a terminal, a socket. False where there is nothing.
    /// </summary>
    public static bool IsReadOnce(string path)
    {
        try
        {
            return Posix.TypeOf(PathOf(path)) is Posix.FileType.Pipe or Posix.FileType.CharacterDevice or Posix.FileType.Socket;
        }
        catch (IOException)
        {
            return false;
        }
    }
}
