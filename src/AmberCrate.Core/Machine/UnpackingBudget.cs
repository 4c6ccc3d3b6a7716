using AmberCrate.Core.Cards;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Machine;

/// <summary>
/// How much an artifact may grow when it is unpacked: a small file that holds a full disk is refused on the way.
/// </summary>
/// <param name="artifact">The artifact.</param>
public sealed class UnpackingBudget(Artifact artifact)
{
    /// <summary>How many entries an archive may have.</summary>
    public const int MostEntries = 300_000;

    private const long Slack = 64 << 20, MostUnsaid = 1 << 30, MostGrowth = 200;

    private long _bytes;
    private int _entries;

    /// <summary>
    /// How many bytes it may take on disk: twice what the card says, and where that is silent 1 GiB or 200 times the download.
    /// </summary>
    public long MostBytes { get; } = artifact.InstalledSize is { } size
        ? 2 * size + Slack
        : Math.Max(MostUnsaid, MostGrowth * artifact.DownloadSize);

    /// <summary>Notes bytes that are written.</summary>
    /// <exception cref="RefusedEntryException">They are too many.</exception>
    public void AddBytes(int count)
    {
        _bytes += count;
        if (_bytes <= MostBytes) return;
        var said = artifact.InstalledSize is { } size ? $" although its card says that it holds {ByteSize.Words(size)}" : "";
        throw new RefusedEntryException(
            $"more than {ByteSize.Words(MostBytes)}, from a file of {ByteSize.Words(artifact.DownloadSize)}{said}");
    }

    /// <summary>Notes an entry.</summary>
    /// <exception cref="RefusedEntryException">They are too many.</exception>
    public void AddEntry()
    {
        if (++_entries > MostEntries) throw new RefusedEntryException($"more than {MostEntries} entries");
    }
}
