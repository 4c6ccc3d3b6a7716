using AmberCrate.Core.Cards;
using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Archives;

/// <summary>A single program that is compressed.</summary>
/// <param name="format">The format.</param>
/// <param name="signature">By what such a file is known.</param>
/// <param name="decompress">Opens the program.</param>
internal sealed class CompressedProgramFormat(
    ArtifactFormat format, FileSignature signature, Func<Stream, Stream> decompress) : IArchiveFormat
{
    private const int SignatureSize = 4;

    /// <inheritdoc/>
    public ArtifactFormat Format => format;

    /// <inheritdoc/>
    public FileSignature? Signature => signature;

    /// <summary>Whether a file starts as programs do: an ELF file, or a script that names its interpreter.</summary>
    /// <param name="start">The beginning of the file.</param>
    public static bool IsProgram(ReadOnlySpan<byte> start) => start.StartsWith("\u007FELF"u8) || start.StartsWith("#!"u8);

    /// <inheritdoc/>
    public void Unpack(Stream file, Artifact artifact, FolderFiller filler)
    {
        using var program = new ProgramStream(TarFormat.Ahead(decompress(file), file.Length));
        filler.AddFile(program, artifact.ShelfFileName, FolderFiller.ProgramMode);
    }

    /// <summary>A program, which is checked to be one.</summary>
    private sealed class ProgramStream(Stream content) : ReadOnlyStream
    {
        private bool _hasBegun;

        public override int Read(Span<byte> buffer)
        {
            if (_hasBegun) return content.Read(buffer);
            _hasBegun = true;
            var read = content.ReadAtLeast(buffer, Math.Min(SignatureSize, buffer.Length), throwOnEndOfStream: false);
            return IsProgram(buffer[..read])
                ? read
                : throw new InvalidDataException("what is compressed in it is neither an ELF file nor a script");
        }

        protected override void Dispose(bool disposing)
        {
            if (disposing) content.Dispose();
            base.Dispose(disposing);
        }
    }
}
