using AmberCrate.Core.Cards;

namespace AmberCrate.Engine.Archives;

/// <summary>A zip archive.</summary>
internal sealed class ZipFormat : IArchiveFormat
{
    /// <inheritdoc/>
    public ArtifactFormat Format => ArtifactFormat.Zip;

    /// <inheritdoc/>
    public FileSignature? Signature { get; } = new("a zip file", [(byte)'P', (byte)'K', 3, 4]);

    /// <inheritdoc/>
    public void Unpack(Stream file, Artifact artifact, FolderFiller filler) =>
        filler.AddEntries(ZipEntries.Read(file), filler.RulesFor(artifact));
}
