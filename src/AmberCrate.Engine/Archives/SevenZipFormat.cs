using AmberCrate.Core.Cards;

namespace AmberCrate.Engine.Archives;

/// <summary>A 7z archive.</summary>
internal sealed class SevenZipFormat : IArchiveFormat
{
    /// <inheritdoc/>
    public ArtifactFormat Format => ArtifactFormat.SevenZip;

    /// <inheritdoc/>
    public FileSignature? Signature { get; } = new("a 7z file", [(byte)'7', (byte)'z', 0xBC, 0xAF]);

    /// <inheritdoc/>
    public void Unpack(Stream file, Artifact artifact, FolderFiller filler) =>
        filler.AddEntries(SevenZipEntries.Read(file), filler.RulesFor(artifact));
}
