using System.Security.Cryptography;
using AmberCrate.Engine.Decoding;
using AmberCrate.Playhouse;
using SharpCompress.Common;
using SharpCompress.Compressors.Xz;

namespace AmberCrate.Engine.Tests.Archives;

/// <summary>The system's libraries and the managed decoders do the same.</summary>
public sealed class DecompressionTests
{
    private static readonly byte[] Plain = [.. RandomNumberGenerator.GetBytes(900_000), .. new byte[2_000_000]];

    public static TheoryData<string, bool> Decoders =>
        new() { { "zst", true }, { "zst", false }, { "xz", true }, { "xz", false } };

    [Theory]
    [MemberData(nameof(Decoders))]
    public void What_was_compressed_comes_back_whatever_the_portions(string format, bool native)
    {
        var packed = Packed(format);
        Read(Open(format, native, packed), 1 << 16).ShouldBe(Plain);
        Read(Open(format, native, packed), 977).ShouldBe(Plain);
        if (format == "zst" || native) Read(Open(format, native, [.. packed, .. packed]), 1 << 20).ShouldBe(
            [.. Plain, .. Plain], "the managed decoder for xz knows one stream only");
        Read(new ReadAheadStream(Open(format, native, packed)), 70_001).ShouldBe(Plain);
    }

    [Theory]
    [MemberData(nameof(Decoders))]
    public void What_is_cut_or_altered_is_refused(string format, bool native)
    {
        var packed = Packed(format);
        ShouldBeDamaged(() => Read(Open(format, native, packed[..(packed.Length / 2)]), 4096));
        ShouldBeDamaged(() => Read(new ReadAheadStream(Open(format, native, packed[..500])), 4096));
        ShouldBeDamaged(() => Read(Open(format, native, [1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13]), 4096));

        // xz has a checksum in it, zstd need not.
        if (format == "xz")
            ShouldBeDamaged(() => Read(Open(format, native, [.. packed[..500], .. new byte[100], .. packed[600..]]), 4096));
    }

    /// <summary>What a damaged file is told by, and nothing else is; the managed decoders have exceptions of their own.</summary>
    private static void ShouldBeDamaged(Func<byte[]> read)
    {
        var fault = Record.Exception(() => read()).ShouldNotBeNull();
        (fault is InvalidDataException or EndOfStreamException or ZstdSharp.ZstdException or SharpCompressException)
            .ShouldBeTrue(fault.ToString());
    }

    [Fact]
    public void A_stream_that_nobody_reads_to_its_end_is_left_at_once()
    {
        using var ahead = new ReadAheadStream(new MemoryStream(new byte[50_000_000]));
        ahead.ReadByte().ShouldBe(0);
    }

    private static Stream Open(string format, bool native, byte[] packed)
    {
        LibzstdStream.IsAvailable.ShouldBeTrue("this test needs libzstd");
        LiblzmaStream.IsAvailable.ShouldBeTrue("this test needs liblzma");
        var source = new MemoryStream(packed);
        return format == "zst"
            ? native ? new LibzstdStream(source) : new ZstdSharp.DecompressionStream(source)
            : native ? new LiblzmaStream(source) : new XZStream(source);
    }

    private static byte[] Packed(string format) => format == "zst" ? ArtifactForge.Zstd(Plain) : XzEncoder.Encode(Plain);

    private static byte[] Read(Stream stream, int portion)
    {
        using var result = new MemoryStream();
        using (stream) stream.CopyTo(result, portion);
        return result.ToArray();
    }
}
