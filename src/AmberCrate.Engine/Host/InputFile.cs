namespace AmberCrate.Engine.Host;

/// <summary>A file that a person names for a command to read.</summary>
public static class InputFile
{
    /// <summary>
    /// Whether what is at a path can be read once only: a pipe, a terminal, a socket. False where there is nothing.
    /// </summary>
    public static bool IsReadOnce(string path)
    {
        try
        {
            return Posix.TypeOf(path) is Posix.FileType.Pipe or Posix.FileType.CharacterDevice or Posix.FileType.Socket;
        }
        catch (IOException)
        {
            return false;
        }
    }
}
