using AmberCrate.Core.Cards;

namespace AmberCrate.Engine.Archives;

/// <summary>A single file, taken as it is.</summary>
/// <param name="format">The format.</param>
/// <param name="isProgram">Whether it is made executable.</param>
internal sealed class SingleFileFormat(ArtifactFormat format, bool isProgram) : IArchiveFormat
{
    /// <inheritdoc/>
    public ArtifactFormat Format => format;

    /// <inheritdoc/>
    public FileSignature? Signature => null;

    /// <inheritdoc/>
    public void Unpack(Stream file, Artifact artifact, FolderFiller filler) =>
        filler.AddFile(file, artifact.ShelfFileName, isProgram ? FolderFiller.ProgramMode : FolderFiller.PlainMode);
}
