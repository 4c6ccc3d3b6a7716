using System.Text;
using AmberCrate.Core.Placements;

namespace AmberCrate.Engine.Observing;

/// <summary>
/// Finds the absolute paths that a program or script names, below the folders where packages of the system lie.
/// </summary>
internal static class NamedPaths
{
    private const int Longest = 200, MostPaths = 2000;
    private const long MostBytes = 64 << 20;

    /// <summary>
    /// The patterns for paths that a program composes. A compiler puts the first eight letters of a short text into an
    /// instruction (movabs), and the rest elsewhere.
    /// </summary>
    private static readonly (byte[] Begins, string Named)[] Composed =
        [([.. "/usr/sha"u8], MappedPath.AnyShare), ([.. "/usr/lib"u8], MappedPath.AnyLibrary)];

    private static readonly byte[][] Tops =
        [.. "/usr/ /etc/ /opt/ /var/ /lib/ /srv/".Split(' ').Select(Encoding.ASCII.GetBytes)];

    /// <summary>The paths that a file names, in order, each once; none if it cannot be read or is very large.</summary>
    /// <param name="path">The file.</param>
    public static IReadOnlyList<string> Find(string path)
    {
        try
        {
            return new FileInfo(path) is { Exists: true, Length: <= MostBytes } ? Find(File.ReadAllBytes(path)) : [];
        }
        catch (Exception unreadable) when (unreadable is IOException or UnauthorizedAccessException)
        {
            return [];
        }
    }

    /// <summary>The paths in the content of a file.</summary>
    /// <param name="bytes">The content.</param>
    public static IReadOnlyList<string> Find(ReadOnlySpan<byte> bytes)
    {
        var (found, seen) = (new List<string>(), new HashSet<string>(StringComparer.Ordinal));
        for (var at = 0; found.Count < MostPaths && bytes[at..].IndexOf((byte)'/') is >= 0 and var next;)
        {
            at += next;
            var rest = bytes[at..];
            if (FindComposed(bytes, at) is { } composed)
            {
                if (seen.Add(composed)) found.Add(composed);
                at += sizeof(ulong);
            }
            else if ((at == 0 || !IsOfPath(bytes[at - 1])) && StartsWithTop(rest))
            {
                var length = 1;
                while (length < rest.Length && length <= Longest && IsOfPath(rest[length])) length++;
                var named = Encoding.ASCII.GetString(rest[..length]).TrimEnd('.', '/', '-', '+');
                if (length <= Longest && named.IndexOf('/', 1) > 0 && seen.Add(named)) found.Add(named);
                at += length;
            }
            else
            {
                at++;
            }
        }

        return found;
    }

    private static string? FindComposed(ReadOnlySpan<byte> bytes, int at)
    {
        // REX.W, with or without REX.B, and B8 to BF: MOV of 64 bits into a register (Intel SDM, volume 2).
        if (at < 2 || bytes[at - 2] is not (0x48 or 0x49) || bytes[at - 1] is not (>= 0xB8 and <= 0xBF)) return null;
        foreach (var (begins, named) in Composed)
        {
            if (bytes[at..].StartsWith(begins)) return named;
        }

        return null;
    }

    private static bool StartsWithTop(ReadOnlySpan<byte> text)
    {
        foreach (var top in Tops)
        {
            if (text.StartsWith(top)) return true;
        }

        return false;
    }

    // Behind $prefix, ~ and the like a path does not begin at the root.
    private static bool IsOfPath(byte letter) =>
        char.IsAsciiLetterOrDigit((char)letter) || letter is (byte)'.' or (byte)'_' or (byte)'/' or (byte)'+' or (byte)'-'
            or (byte)'$' or (byte)'}' or (byte)'~';
}
