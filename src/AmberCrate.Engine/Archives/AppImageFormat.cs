using AmberCrate.Core.Cards;

namespace AmberCrate.Engine.Archives;

/// <summary>An AppImage, which is kept whole, with a launcher beside it.</summary>
internal sealed class AppImageFormat : IArchiveFormat
{
    /// <inheritdoc/>
    public ArtifactFormat Format => ArtifactFormat.AppImage;

    /// <inheritdoc/>
    public FileSignature? Signature { get; } = new("a program", [0x7F, (byte)'E', (byte)'L', (byte)'F']);

    /// <inheritdoc/>
    public void Unpack(Stream file, Artifact artifact, FolderFiller filler)
    {
        AppImage.Require(file);
        filler.AddFile(file, artifact.ShelfFileName, FolderFiller.ProgramMode);
        filler.AddFile(AppImage.Launcher(artifact.ShelfFileName), Artifact.LauncherName, FolderFiller.ProgramMode);
    }
}
