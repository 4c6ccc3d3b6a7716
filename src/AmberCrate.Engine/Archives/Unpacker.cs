using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Decoding;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Archives;

/// <summary>
/// Unpacks artifacts into a hidden folder, one after another. Nothing there is used before the artifacts are verified.
/// </summary>
public sealed class Unpacker
{
    private const int BufferSize = 1 << 17;
    private const string AnyVowel = "aeiou";

    private readonly FolderFiller _filler;

    /// <summary>Begins to fill a folder.</summary>
    /// <param name="folder">An empty folder. Where unpacking fails it is left half filled, for the caller to remove.</param>
    /// <param name="cancel">Stops between two blocks.</param>
    public Unpacker(string folder, CancellationToken cancel) => _filler = new FolderFiller(folder, cancel);

    /// <summary>Unpacks the only file of an app.</summary>
    /// <param name="file">The file.</param>
    /// <param name="artifact">Says how it is packed.</param>
    /// <param name="folder">An empty folder. Where unpacking fails it is left half filled, for the caller to remove.</param>
    /// <param name="cancel">Stops between two blocks.</param>
    /// <returns>Which file was unpacked; null where it was changed meanwhile.</returns>
    /// <exception cref="ProblemException">The archive is damaged, or holds an entry that is not accepted.</exception>
    public static FileIdentity? Unpack(PresentFile file, Artifact artifact, string folder, CancellationToken cancel)
    {
        var unpacker = new Unpacker(folder, cancel);
        var identity = unpacker.Add(file, artifact);
        unpacker.End();
        return identity;
    }

    /// <summary>Ends after the last file.</summary>
    public void End() => _filler.End();

    /// <summary>Unpacks a file beside those before it.</summary>
    /// <param name="file">The file.</param>
    /// <param name="artifact">Says how it is packed.</param>
    /// <returns>Which file was unpacked; null where it was changed meanwhile.</returns>
    /// <exception cref="ProblemException">The archive is damaged, or holds an entry that is not accepted, such as one that
    /// another file has brought.</exception>
    public FileIdentity? Add(PresentFile file, Artifact artifact)
    {
        var format = ArchiveFormats.Find(artifact.Format);
        using var stream = new FileStream(file.Path, FileMode.Open, FileAccess.Read, FileShare.ReadWrite | FileShare.Delete,
            BufferSize);
        var identity = FileIdentity.Read(stream.SafeFileHandle);

        // A format may close its stream.
        using var witness = File.OpenHandle(file.Path, share: FileShare.ReadWrite | FileShare.Delete);
        try
        {
            _filler.Begin(new UnpackingBudget(artifact));
            format.Unpack(stream, artifact, _filler);
            return FileIdentity.Read(witness) == identity ? identity : null;
        }
        catch (RefusedEntryException refused)
        {
            throw new Problem(
                ProblemCode.NotVerified, "the archive is not accepted", $"it holds {refused.Message}",
                "do not use the file, and tell the catalogue's maintainer").ToException(refused);
        }
        catch (UnsupportedArchiveException unsupported)
        {
            throw new Problem(
                ProblemCode.SystemLacks, "the archive cannot be unpacked here", unsupported.Message,
                "tell the catalogue's maintainer: the file must be packed in another way").ToException(unsupported);
        }
        catch (Exception damaged) when (damaged is InvalidDataException or EndOfStreamException)
        {
            throw Damaged(file, format, damaged).ToException(damaged);
        }
    }

    private static Problem Damaged(PresentFile file, IArchiveFormat format, Exception damaged)
    {
        if (FileSignature.OtherThan(format, file.Path) is { } other)
        {
            var word = CardWords.Formats.WordOf(format.Format);
            var article = AnyVowel.Contains(word[0], StringComparison.Ordinal) ? "an" : "a";
            return new Problem(
                ProblemCode.NotVerified, $"the archive is not {article} {word}", $"it begins like {other}",
                "tell the catalogue's maintainer: the card names the wrong format");
        }

        return new Problem(
            ProblemCode.NotVerified, "the archive is damaged", damaged.Message,
            "tell the catalogue's maintainer: the file is what the catalogue says, but cannot be unpacked");
    }
}
