using System.Net;
using System.Security.Authentication;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Fetching;

/// <summary>
/// Brings one artifact home: from its address or else its mirrors, taken up where it broke off, tried again after a wait where
/// the reason may pass. Whatever the way, the bytes are those that were wanted or it fails.
/// </summary>
/// <param name="fetcher">Opens addresses.</param>
/// <param name="retries">When to try again.</param>
/// <param name="bandwidth">The limit that all transfers share; null for none.</param>
/// <param name="clock">Waits.</param>
internal sealed class ArtifactTransfer(Fetcher fetcher, RetryRule retries, Bandwidth? bandwidth, TimeProvider clock)
{
    /// <summary>Fetches a file.</summary>
    /// <param name="wanted">The file.</param>
    /// <param name="incoming">What there is of it already, and where it grows.</param>
    /// <param name="path">The name that it gets when it is whole.</param>
    /// <param name="watch">Is told how it gets on.</param>
    /// <param name="cancel">Stops; what has arrived stays for another time.</param>
    /// <exception cref="ProblemException">No source delivers it.</exception>
    public async Task<VerifiedFile> RunAsync(WantedFile wanted, VerifiedFile.Incoming incoming, string path, TransferWatch? watch, CancellationToken cancel)
    {
        var sources = wanted.Sources.Select(address => new Source(address)).ToList();
        var most = incoming.Length;
        for (var failed = 1; ; failed++)
        {
            foreach (var source in sources.Where(source => !source.IsHopeless).ToList())
            {
                if (await TryAsync(source, wanted, incoming, path, watch, cancel) is { } whole) return whole;
            }

            if (incoming.Length > most) (most, failed) = (incoming.Length, 1);
            var open = sources.Where(source => !source.IsHopeless).ToList();
            if (open.Count == 0 || retries.WaitAfter(failed, open.Min(source => source.RetryAfter)) is not { } wait) throw Failure(sources, failed).ToException();
            watch?.Waits?.Invoke(wait, open[0].Problem!.Why);
            await Task.Delay(wait, clock, cancel);
        }
    }

    /// <summary>Tries one source; null where it failed, which is noted.</summary>
    private async Task<VerifiedFile?> TryAsync(Source source, WantedFile wanted, VerifiedFile.Incoming incoming, string path, TransferWatch? watch, CancellationToken cancel)
    {
        try
        {
            return await AttemptAsync(source.Address, wanted, incoming, path, watch, cancel);
        }
        catch (Exception fault) when (IsOfSource(fault))
        {
            source.Note(fault);
            return null;
        }
    }

    private async Task<VerifiedFile> AttemptAsync(Uri address, WantedFile wanted, VerifiedFile.Incoming incoming, string path, TransferWatch? watch, CancellationToken cancel)
    {
        while (true)
        {
            var from = incoming.Length;
            var ended = from > 0 && from == wanted.Size;
            if (!ended)
            {
                try
                {
                    ended = await ReceiveAsync(address, from, wanted, incoming, watch, cancel);
                }
                catch (ServerAnswerException answer) when (from > 0 && answer.StatusCode == HttpStatusCode.RequestedRangeNotSatisfiable)
                {
                    incoming.Restart();
                    continue;
                }
            }

            if (!ended) throw new HttpRequestException($"the connection ended after {incoming.Length} of {wanted.Size} bytes");
            if (incoming.Finish(wanted.Size, wanted.Sha256, path, flush: false) is { } whole) return whole;
            var (found, length) = (incoming.Found, incoming.Length);
            incoming.Restart();

            // Bytes of two tries, perhaps from two sources, need not go together: the whole is fetched once more before it is judged.
            if (from > 0) continue;
            throw (VerifiedFile.Differs(wanted.Size, wanted.Sha256, length, found) with
            {
                Remedy = $"acrate catalogue refresh, in case the catalogue has changed; where you have checked the new file with its developer: --expect {wanted.App}=sha256:DIGEST",
            }).ToException();
        }
    }

    /// <summary>Receives what a source delivers; false where it broke off without a word.</summary>
    private async Task<bool> ReceiveAsync(Uri address, long from, WantedFile wanted, VerifiedFile.Incoming incoming, TransferWatch? watch, CancellationToken cancel)
    {
        using var content = await fetcher.OpenAsync(new FetchRequest(address) { From = from, WholeLength = wanted.Size }, cancel);
        if (content!.From != from) incoming.Restart();
        await incoming.AppendAsync(bandwidth is null ? content.Stream : new ThrottledStream(content.Stream, bandwidth), wanted.Size, wanted.Sha256, watch?.Bytes, cancel);
        return wanted.Size is null || incoming.Length >= wanted.Size || content.Length is not null;
    }

    private static bool IsOfSource(Exception fault) => fault is HttpRequestException or TimeoutException or ProblemException or InvalidDataException
        || (fault is IOException file && file is FileNotFoundException or DirectoryNotFoundException);

    /// <summary>One problem as it is; where there are several sources, the first one's with what the others said.</summary>
    private static Problem Failure(List<Source> sources, int rounds)
    {
        var first = sources[0].Problem!;
        if (sources.Exists(source => source.Problem!.Code == ProblemCode.NotVerified)) first = sources.Find(source => source.Problem!.Code == ProblemCode.NotVerified)!.Problem!;
        if (rounds > 1) first = first with { Why = $"{first.Why}; tried {rounds} times" };
        return sources.Count == 1 ? first : first with { Details = [.. sources.Select(source => $"{Shown(source.Address)}: {source.Problem!.Why}")] };
    }

    private static string Shown(Uri address) => address.IsFile ? address.LocalPath : address.GetLeftPart(UriPartial.Path);

    /// <summary>An address, and how it has fared.</summary>
    private sealed class Source(Uri address)
    {
        public Uri Address { get; } = address;

        /// <summary>Whether trying again can do no good.</summary>
        public bool IsHopeless { get; private set; }

        public TimeSpan? RetryAfter { get; private set; }

        public Problem? Problem { get; private set; }

        public void Note(Exception fault)
        {
            Problem = IoProblems.Of(fault, $"{Shown(Address)} cannot be fetched");
            RetryAfter = (fault as ServerAnswerException)?.RetryAfter;
            IsHopeless = fault switch
            {
                ServerAnswerException answer => !answer.IsPassing || answer.RetryAfter > RetryRule.LongestAskedFor,
                HttpRequestException http => http.HttpRequestError == HttpRequestError.SecureConnectionError || http.InnerException is AuthenticationException,
                TimeoutException => false,
                _ => true,
            };
        }
    }
}
