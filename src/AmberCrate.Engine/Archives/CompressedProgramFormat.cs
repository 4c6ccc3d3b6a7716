using System.Buffers.Binary;
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
    /// <summary>How many bytes of a program say that it is one.</summary>
    public const int SignatureSize = 4;

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
        var size = format == ArtifactFormat.ProgramGz ? ReadGzipSize(file) : null;
        using var program = new ProgramStream(TarFormat.Ahead(decompress(file), file.Length));
        filler.AddFile(program, artifact.ShelfFileName, FolderFiller.ProgramMode);

        // The framework takes a gzip file that is cut off for one that has ended. One that was joined of several is longer.
        if (size > program.Total) throw new EndOfStreamException("the file ends in the middle");
    }

    /// <summary>The size of the last member of a gzip file (RFC 1952, 2.3.1); null for a file without room for it.</summary>
    private static uint? ReadGzipSize(Stream file)
    {
        if (file.Length < sizeof(uint)) return null;
        var size = new byte[sizeof(uint)];
        file.Position = file.Length - size.Length;
        file.ReadExactly(size);
        file.Position = 0;
        return BinaryPrimitives.ReadUInt32LittleEndian(size);
    }

    /// <summary>A program, which is checked to be one.</summary>
    private sealed class ProgramStream(Stream content) : ReadOnlyStream
    {
        private bool _hasBegun;

        /// <summary>How many bytes were read.</summary>
        public long Total { get; private set; }

        public override int Read(Span<byte> buffer)
        {
            var least = _hasBegun ? 1 : SignatureSize;
            var read = content.ReadAtLeast(buffer, Math.Min(least, buffer.Length), throwOnEndOfStream: false);
            if (!_hasBegun && !IsProgram(buffer[..read]))
                throw new InvalidDataException("what is compressed in it is neither an ELF file nor a script");
            _hasBegun = true;
            Total += read;
            return read;
        }

        protected override void Dispose(bool disposing)
        {
            if (disposing) content.Dispose();
            base.Dispose(disposing);
        }
    }
}
