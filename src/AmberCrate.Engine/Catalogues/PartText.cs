using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Catalogues;

/// <summary>The content of a part.</summary>
internal static class PartText
{
    /// <summary>Decompresses a part, at most to the size that the entry document says.</summary>
    /// <exception cref="MalformedException">It cannot be decompressed, or not to that size.</exception>
    public static byte[] Unpack(PartListing part, byte[] packed)
    {
        try
        {
            using var unpacking = new ZstdSharp.DecompressionStream(new MemoryStream(packed));
            var content = new byte[part.ContentSize];
            var length = unpacking.ReadAtLeast(content, content.Length, throwOnEndOfStream: false);
            return length == content.Length && unpacking.ReadByte() < 0
                ? content
                : throw new MalformedException($"the content of {part.Path} is not of {part.ContentSize} bytes");
        }
        catch (Exception fault) when (fault is ZstdSharp.ZstdException or EndOfStreamException)
        {
            throw new MalformedException($"{part.Path} cannot be decompressed: {fault.Message}", fault);
        }
    }

    /// <summary>The lines, without their ends.</summary>
    public static IEnumerable<ReadOnlyMemory<byte>> Lines(byte[] content)
    {
        for (var start = 0; start < content.Length;)
        {
            var end = Array.IndexOf(content, (byte)'\n', start);
            if (end < 0) end = content.Length;
            yield return content.AsMemory(start, end - start);
            start = end + 1;
        }
    }
}
