using AmberCrate.Core.Cards;

namespace AmberCrate.Engine.Archives;

/// <summary>
/// A program of the vendor that fills the folder itself when it is run, once it is known to be the file that the catalogue means.
/// </summary>
internal sealed class InstallerFormat : IArchiveFormat
{
    /// <inheritdoc/>
    public ArtifactFormat Format => ArtifactFormat.Installer;

    /// <inheritdoc/>
    public FileSignature? Signature => null;

    /// <inheritdoc/>
    public void Unpack(Stream file, Artifact artifact, FolderFiller filler)
    {
        // Nothing is taken out of it here.
    }
}
