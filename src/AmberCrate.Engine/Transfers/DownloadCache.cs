using AmberCrate.Core.Cards;
using AmberCrate.Engine.Running;

namespace AmberCrate.Engine.Transfers;

/// <summary>Downloaded artifacts by digest. What is there is hashed again before it is used, and nothing half fetched gets a digest for a name.</summary>
/// <param name="layout">Where it lies.</param>
/// <param name="fetcher">Opens addresses.</param>
/// <param name="beforeFetching">What must be done before the first address is opened.</param>
public sealed class DownloadCache(MachineLayout layout, Fetcher fetcher, Action beforeFetching)
{
    private const string PartEnding = ".part";

    /// <summary>Removes what downloads that were cut off left behind. Only for the one who holds the lock.</summary>
    public void DropPartial()
    {
        if (!Directory.Exists(layout.DownloadsFolder)) return;
        foreach (var file in Directory.EnumerateFiles(layout.DownloadsFolder, "*" + PartEnding)) File.Delete(file);
    }

    /// <summary>The artifact as a verified file, from the cache or else from its address.</summary>
    /// <param name="artifact">The artifact.</param>
    /// <param name="address">Where it lies.</param>
    /// <param name="progress">Takes the number of bytes that have arrived.</param>
    /// <param name="cancel">Stops, and leaves nothing behind.</param>
    public async Task<VerifiedFile> GetAsync(Artifact artifact, Uri address, ByteCount? progress, CancellationToken cancel)
    {
        Directory.CreateDirectory(layout.DownloadsFolder);
        var path = Path.Combine(layout.DownloadsFolder, artifact.Sha256.Hex);
        if (await VerifiedFile.FindAsync(path, artifact.DownloadSize, artifact.Sha256, cancel) is { } cached) return cached;

        beforeFetching();
        var partial = $"{path}.{Environment.ProcessId}{PartEnding}";
        using var content = await fetcher.OpenAsync(address, null, cancel);
        var received = await VerifiedFile.ReceiveAsync(content!.Stream, partial, artifact.DownloadSize, artifact.Sha256, progress, cancel);
        return received.MoveTo(path);
    }
}
