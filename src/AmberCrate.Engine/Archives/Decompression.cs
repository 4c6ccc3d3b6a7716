using System.IO.Compression;
using AmberCrate.Core.Cards;
using SharpCompress.Compressors.BZip2;
using SharpCompress.Compressors.Xz;

namespace AmberCrate.Engine.Archives;

/// <summary>Opens the compressed stream around a tar archive.</summary>
internal static class Decompression
{
    public static Stream Open(ArtifactForm form, Stream compressed) => form switch
    {
        ArtifactForm.TarGz => new GZipStream(compressed, CompressionMode.Decompress),
        ArtifactForm.TarZst => LibzstdStream.IsAvailable ? new LibzstdStream(compressed) : new ZstdSharp.DecompressionStream(compressed),
        ArtifactForm.TarBz2 => BZip2Stream.Create(compressed, SharpCompress.Compressors.CompressionMode.Decompress, decompressConcatenated: true),
        ArtifactForm.TarXz => LiblzmaStream.IsAvailable ? new LiblzmaStream(compressed) : new XZStream(compressed),
        _ => throw new ArgumentOutOfRangeException(nameof(form), form, "not a compressed tar archive"),
    };
}
