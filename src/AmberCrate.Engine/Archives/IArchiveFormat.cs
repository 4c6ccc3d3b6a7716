using AmberCrate.Core.Cards;

namespace AmberCrate.Engine.Archives;

/// <summary>
/// How the files of one format become a folder. A new format is one class more, or one row more of a class that is there, in <see
/// cref="ArchiveFormats"/>.
/// </summary>
internal interface IArchiveFormat
{
    /// <summary>The format.</summary>
    ArtifactFormat Format { get; }

    /// <summary>By what a file of the format is known; null where by nothing.</summary>
    FileSignature? Signature { get; }

    /// <summary>Fills a folder.</summary>
    /// <param name="file">The file, at its beginning.</param>
    /// <param name="artifact">What its card says of it.</param>
    /// <param name="filler">Fills the folder.</param>
    /// <exception cref="InvalidDataException">The file is damaged.</exception>
    /// <exception cref="EndOfStreamException">It ends in the middle.</exception>
    /// <exception cref="Core.Machine.RefusedEntryException">It holds something that is not accepted.</exception>
    void Unpack(Stream file, Artifact artifact, FolderFiller filler);
}
