using System.Net;
using System.Net.Http.Headers;
using AmberCrate.Core.Problems;

namespace AmberCrate.Engine.Transfers;

/// <summary>
/// Opens http, https and file addresses. A server that stops sending is noticed. A redirect is followed to https, or within
/// plain http where that is where it began and the host stays; credentials go to the host of their catalogue and no other.
/// </summary>
public sealed class Fetcher : IDisposable
{
    /// <summary>How long a server may be silent unless set otherwise.</summary>
    public static readonly TimeSpan DefaultPatience = TimeSpan.FromSeconds(30);

    private const int MostRedirects = 5;

    private readonly Lazy<HttpClient> _http;
    private readonly TimeSpan _patience;
    private readonly bool _isOffline;
    private readonly Credentials? _credentials;

    /// <summary>Makes a fetcher.</summary>
    /// <param name="patience">How long a server may be silent: while connecting, before it answers, and between bytes.</param>
    /// <param name="isOffline">Whether only files may be opened.</param>
    /// <param name="credentials">What private catalogues ask for; null for none.</param>
    public Fetcher(TimeSpan patience, bool isOffline = false, Credentials? credentials = null)
    {
        (_patience, _isOffline, _credentials) = (patience, isOffline, credentials);
        _http = new Lazy<HttpClient>(MakeClient);
    }

    /// <summary>Opens an address.</summary>
    /// <param name="address">The address.</param>
    /// <param name="knownMark">The mark of what is known already; null to fetch in any case.</param>
    /// <param name="cancel">Stops waiting.</param>
    /// <returns>The content; null where it is still what the mark says.</returns>
    /// <exception cref="HttpRequestException">The server cannot be reached or answers with an error.</exception>
    /// <exception cref="TimeoutException">The server is silent for too long.</exception>
    /// <exception cref="IOException">The file cannot be opened.</exception>
    public Task<FetchedContent?> OpenAsync(Uri address, string? knownMark, CancellationToken cancel) =>
        address.IsFile ? Task.FromResult(OpenFile(address, knownMark)) : OpenHttpAsync(address, knownMark, cancel);

    /// <inheritdoc/>
    public void Dispose()
    {
        if (_http.IsValueCreated) _http.Value.Dispose();
    }

    private HttpClient MakeClient()
    {
        var handler = new SocketsHttpHandler { ConnectTimeout = _patience, AutomaticDecompression = DecompressionMethods.None, AllowAutoRedirect = false, Proxy = new LoopbackDirect(HttpClient.DefaultProxy) };
        var http = new HttpClient(handler) { Timeout = Timeout.InfiniteTimeSpan };
        http.DefaultRequestHeaders.UserAgent.Add(new ProductInfoHeaderValue("acrate", typeof(Fetcher).Assembly.GetName().Version?.ToString(3)));
        return http;
    }

    private static FetchedContent? OpenFile(Uri address, string? knownMark)
    {
        var info = new FileInfo(address.LocalPath);
        var mark = info.Exists ? $"file {info.Length} {info.LastWriteTimeUtc.Ticks}" : null;
        if (mark is not null && mark == knownMark) return null;
        return new FetchedContent(new FileStream(info.FullName, FileMode.Open, FileAccess.Read, FileShare.Read, 1 << 16, useAsync: false), mark, null);
    }

    private async Task<FetchedContent?> OpenHttpAsync(Uri address, string? knownMark, CancellationToken cancel)
    {
        if (_isOffline) throw new Problem(ProblemCode.Unreachable, $"{address} is not asked", "--offline", "leave --offline out").ToException();
        var response = await AskAsync(address, knownMark, cancel);
        for (var redirects = 0; IsRedirect(response); redirects++)
        {
            using var left = response;
            var next = left.Headers.Location is { } location ? new Uri(address, location) : throw new HttpRequestException("the server redirects to nowhere");
            if (redirects == MostRedirects) throw new HttpRequestException($"the server redirects more than {MostRedirects} times");
            RequireSafe(address, next);
            address = next;
            response = await AskAsync(address, knownMark, cancel);
        }

        try
        {
            if (response.StatusCode is HttpStatusCode.Unauthorized or HttpStatusCode.Forbidden && _credentials is not null)
                throw new Problem(ProblemCode.Unreachable, $"{address} may not be read", $"the server answers {(int)response.StatusCode}: it asks for credentials", _credentials.RemedyFor(address)).ToException();

            if (response.StatusCode == HttpStatusCode.NotModified && knownMark is not null)
            {
                response.Dispose();
                return null;
            }

            response.EnsureSuccessStatusCode();
            var body = await InTimeAsync(response.Content.ReadAsStreamAsync, cancel);
            return new FetchedContent(new PatientStream(body, _patience), MarkOf(response), response);
        }
        catch
        {
            response.Dispose();
            throw;
        }
    }

    private async Task<HttpResponseMessage> AskAsync(Uri address, string? knownMark, CancellationToken cancel)
    {
        using var request = new HttpRequestMessage(HttpMethod.Get, address);
        request.Headers.Authorization = _credentials?.For(address);
        if (knownMark?.StartsWith("etag ", StringComparison.Ordinal) == true) request.Headers.TryAddWithoutValidation("If-None-Match", knownMark[5..]);
        if (knownMark?.StartsWith("date ", StringComparison.Ordinal) == true) request.Headers.TryAddWithoutValidation("If-Modified-Since", knownMark[5..]);
        return await InTimeAsync(token => _http.Value.SendAsync(request, HttpCompletionOption.ResponseHeadersRead, token), cancel);
    }

    private static bool IsRedirect(HttpResponseMessage response) => response.StatusCode
        is HttpStatusCode.MovedPermanently or HttpStatusCode.Found or HttpStatusCode.SeeOther or HttpStatusCode.TemporaryRedirect or HttpStatusCode.PermanentRedirect;

    private static void RequireSafe(Uri from, Uri to)
    {
        var isSafe = to.Scheme == Uri.UriSchemeHttps
            || (to.Scheme == Uri.UriSchemeHttp && from.Scheme == Uri.UriSchemeHttp && (to.IsLoopback || string.Equals(to.Host, from.Host, StringComparison.OrdinalIgnoreCase)));
        if (!isSafe)
            throw new Problem(ProblemCode.NotVerified, $"{from} leads to {to.GetLeftPart(UriPartial.Path)}, which is not followed", "a redirect may only lead to https", "tell its keeper; the address that is redirected to can be named instead").ToException();
    }

    private static string? MarkOf(HttpResponseMessage response) =>
        response.Headers.ETag is { } tag ? $"etag {tag}"
        : response.Content.Headers.LastModified is { } date ? $"date {date:R}" : null;

    private async Task<T> InTimeAsync<T>(Func<CancellationToken, Task<T>> act, CancellationToken cancel)
    {
        using var limit = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        limit.CancelAfter(_patience);
        try
        {
            return await act(limit.Token);
        }
        catch (OperationCanceledException late) when (!cancel.IsCancellationRequested)
        {
            throw new TimeoutException($"the server does not answer within {_patience.TotalSeconds:0} seconds", late);
        }
    }
}
