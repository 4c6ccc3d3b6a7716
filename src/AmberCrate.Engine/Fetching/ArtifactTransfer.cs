using AmberCrate.Core.Problems;

namespace AmberCrate.Engine.Fetching;

/// <summary>
/// Brings one file home: takes up where it broke off, as often as its source offers to go on. Whatever the way, the bytes are
/// those that were wanted or it fails.
/// </summary>
/// <param name="source">Where the file comes from, with mirrors and retries.</param>
internal sealed class ArtifactTransfer(IByteSource source)
{
    /// <summary>Fetches a file.</summary>
    /// <param name="wanted">The file.</param>
    /// <param name="incoming">What there is of it already, and where it grows.</param>
    /// <param name="path">The name that it gets when it is whole.</param>
    /// <param name="progress">Receives the progress; null for nobody.</param>
    /// <param name="cancel">Stops; what has arrived stays for another time.</param>
    /// <exception cref="ProblemException">No source delivers it.</exception>
    public async Task<VerifiedFile> RunAsync(
        WantedFile wanted, VerifiedFile.Incoming incoming, string path, ByteCount? progress, CancellationToken cancel)
    {
        while (true)
        {
            var isWholeAlready = incoming.Length > 0 && incoming.Length == wanted.Size;
            using var content = isWholeAlready ? null : await source.OpenAsync(Request(wanted, incoming), cancel);
            if (content is not null && content.From != incoming.Length) incoming.Restart();
            var begunAt = isWholeAlready ? incoming.Length : content!.From;
            if (content is not null && !await ReceiveAsync(content, wanted, incoming, progress, cancel)) continue;
            if (incoming.Finish(wanted.Size, wanted.Sha256, path, flush: false) is { } whole) return whole;

            // Bytes of two tries, perhaps from two sources, need not go together: the whole is fetched again before it is
            // judged.
            if (begunAt == 0) content!.Blame(Differs(wanted, incoming).ToException());
            incoming.Restart();
        }
    }

    private static FetchRequest Request(WantedFile wanted, VerifiedFile.Incoming incoming) =>
        new(wanted.Sources[0]) { From = incoming.Length, WholeLength = wanted.Size, Catalogue = wanted.Catalogue };

    /// <summary>Receives what a source delivers; false where it broke off, which the source learns.</summary>
    private static async Task<bool> ReceiveAsync(
        FetchedContent content, WantedFile wanted, VerifiedFile.Incoming incoming, ByteCount? progress, CancellationToken cancel)
    {
        try
        {
            await incoming.AppendAsync(content.Stream, wanted.Size, wanted.Sha256, progress, cancel);
            var isWhole = wanted.Size is null || incoming.Length >= wanted.Size || content.Length is not null;
            return isWhole
                ? true
                : throw new HttpRequestException($"the connection ended after {incoming.Length} of {wanted.Size} bytes");
        }
        catch (Exception fault) when (SourceFault.IsOfSource(fault))
        {
            content.Blame(fault);
            return false;
        }
    }

    private static Problem Differs(WantedFile wanted, VerifiedFile.Incoming incoming) =>
        VerifiedFile.Differs(wanted.Size, wanted.Sha256, incoming.Length, incoming.Found) with
        {
            Remedy = $"{NextCommand.Create("catalogue refresh")}, in case the catalogue has changed; where you have checked the "
                + $"new file with its developer: --accept-digest {wanted.App}=sha256:DIGEST",
        };
}
