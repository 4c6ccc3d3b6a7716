using System.Buffers.Binary;
using System.Text;

namespace AmberCrate.Engine.Observing;

/// <summary>
/// The list of the system's shared libraries that ldconfig(8) keeps for the loader, in the format of glibc since 2.2 (its header
/// dl-cache.h).
/// </summary>
internal static class LoaderCache
{
    private const int HeaderSize = 48, EntrySize = 24, CountAt = 20, KeyAt = 4, ValueAt = 8;
    private static ReadOnlySpan<byte> Magic => "glibc-ld.so.cache1.1"u8;

    /// <summary>The paths of every library, by the name that programs ask for.</summary>
    /// <param name="cache">The content of the file; what cannot be read is left out.</param>
    public static ILookup<string, string> Read(ReadOnlySpan<byte> cache)
    {
        var found = new List<(string Name, string Path)>();
        var start = cache.IndexOf(Magic);
        if (start >= 0 && cache.Length - start >= HeaderSize)
        {
            var all = cache[start..];
            var count = BinaryPrimitives.ReadUInt32LittleEndian(all[CountAt..]);
            for (long at = HeaderSize; count > 0 && at + EntrySize <= all.Length; at += EntrySize, count--)
            {
                var entry = all.Slice((int)at, EntrySize);
                if (Text(all, BinaryPrimitives.ReadUInt32LittleEndian(entry[KeyAt..])) is { } name
                    && Text(all, BinaryPrimitives.ReadUInt32LittleEndian(entry[ValueAt..])) is { } path) found.Add((name, path));
            }
        }

        return found.ToLookup(pair => pair.Name, pair => pair.Path, StringComparer.Ordinal);
    }

    private static string? Text(ReadOnlySpan<byte> all, uint at)
    {
        if (at >= all.Length) return null;
        var end = all[(int)at..].IndexOf((byte)0);
        return end < 0 ? null : Encoding.UTF8.GetString(all.Slice((int)at, end));
    }
}
