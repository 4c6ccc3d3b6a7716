using AmberCrate.Core.Cards;

namespace AmberCrate.Engine.Archives;

/// <summary>A Debian package; only its files are taken, and none of its scripts runs.</summary>
internal sealed class DebFormat : IArchiveFormat
{
    /// <inheritdoc/>
    public ArtifactFormat Format => ArtifactFormat.Deb;

    /// <inheritdoc/>
    public FileSignature? Signature { get; } = new("a Debian package", [.. "!<arch>\n"u8]);

    /// <inheritdoc/>
    public void Unpack(Stream file, Artifact artifact, FolderFiller filler)
    {
        var (format, data) = DebianPackage.Open(file);
        using var tar = TarFormat.Ahead(format is { } packed ? ArchiveFormats.Decompress(packed, data) : data, file.Length);
        filler.AddEntries(
            TarEntries.Read(tar), filler.RulesFor(artifact, isWholeSystem: true), takesOtherUsersRights: true);
    }
}
