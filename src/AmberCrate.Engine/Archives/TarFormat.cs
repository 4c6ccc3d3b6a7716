using AmberCrate.Core.Cards;
using AmberCrate.Engine.Decoding;

namespace AmberCrate.Engine.Archives;

/// <summary>A tar archive, compressed in one way or another, or not at all.</summary>
/// <param name="format">The format.</param>
/// <param name="signature">By what such a file is known.</param>
/// <param name="decompress">Opens the tar archive within what compresses it.</param>
internal sealed class TarFormat(ArtifactFormat format, FileSignature? signature, Func<Stream, Stream> decompress) : IArchiveFormat
{
    private const long WorthAnotherThread = 1 << 20;

    /// <inheritdoc/>
    public ArtifactFormat Format => format;

    /// <inheritdoc/>
    public FileSignature? Signature => signature;

    /// <summary>Opens the tar archive within what compresses it.</summary>
    public Stream Decompress(Stream packed) => decompress(packed);

    /// <inheritdoc/>
    public void Unpack(Stream file, Artifact artifact, FolderFiller filler)
    {
        using var tar = Ahead(decompress(file), file.Length);
        filler.AddEntries(TarEntries.Read(tar), filler.RulesFor(artifact));
    }

    /// <summary>Decompresses a large archive on another thread; a small one is unpacked before that has begun.</summary>
    public static Stream Ahead(Stream tar, long packedSize) => packedSize > WorthAnotherThread ? new ReadAheadStream(tar) : tar;
}
