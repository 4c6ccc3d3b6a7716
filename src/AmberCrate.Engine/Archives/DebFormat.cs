using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;

namespace AmberCrate.Engine.Archives;

/// <summary>A Debian package, of which only the files are taken: none of its scripts runs.</summary>
internal sealed class DebFormat : IArchiveFormat
{
    /// <inheritdoc/>
    public ArtifactForm Form => ArtifactForm.Deb;

    /// <inheritdoc/>
    public FileSignature? Signature { get; } = new("a Debian package", [.. "!<arch>\n"u8]);

    /// <inheritdoc/>
    public void Unpack(Stream file, Artifact artifact, FolderFiller filler)
    {
        var (form, data) = DebianPackage.Open(file);
        using var tar = TarFormat.Ahead(form is { } packed ? ArchiveFormats.Decompress(packed, data) : data, file.Length);
        filler.AddEntries(
            TarEntries.Read(tar), new ArchiveEntryRules(artifact.StripFolders, isWholeSystem: true), takesOtherUsersRights: true);
    }
}
