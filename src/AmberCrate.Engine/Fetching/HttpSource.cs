using System.IO.Compression;
using System.Net;
using System.Net.Http.Headers;
using System.Net.Sockets;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Layout;

namespace AmberCrate.Engine.Fetching;

/// <summary>
/// Opens http and https addresses. A server that stops sending is noticed. A redirect is followed to https, or within
/// plain http where that is where it began and the host stays; credentials go to the host of their catalogue and no other.
/// </summary>
public sealed class HttpSource : IByteSource, IDisposable
{
    /// <summary>How long a server may be silent by default.</summary>
    public static readonly TimeSpan DefaultNetworkTimeout = TimeSpan.FromSeconds(30);

    private const int MostRedirects = 5;

    private readonly IReadOnlyDictionary<NetworkReach, Lazy<HttpClient>> _http;
    private readonly Lazy<LoopbackDirect> _proxies = new(() => new LoopbackDirect(HttpClient.DefaultProxy));
    private readonly Lazy<bool> _hasAuthorities;
    private readonly HostEnvironment? _host;
    private readonly TimeSpan _timeout;
    private readonly bool _isOffline, _reachesAll;
    private readonly Credentials? _credentials;

    /// <summary>Makes a source.</summary>
    /// <param name="timeout">How long a server may be silent: while connecting, before it answers, and between bytes.</param>
    /// <param name="host">What is around the program; null for the framework's own network, and nobody who wants to know.</param>
    /// <param name="isOffline">Whether the network may not be used.</param>
    /// <param name="credentials">What private catalogues ask for; null for none.</param>
    /// <param name="reachesAll">Whether catalogues on the internet may name addresses inside private networks.</param>
    public HttpSource(
        TimeSpan timeout, HostEnvironment? host = null, bool isOffline = false, Credentials? credentials = null,
        bool reachesAll = false)
    {
        (_timeout, _host, _isOffline, _credentials, _reachesAll) = (timeout, host, isOffline, credentials, reachesAll);
        _http = Enum.GetValues<NetworkReach>().ToDictionary(reach => reach, reach => new Lazy<HttpClient>(() =>
            MakeClient(reach)));
        _hasAuthorities = new Lazy<bool>(() => host is null || AuthorityCertificates.MakeKnown(host.Variable));
    }

    /// <inheritdoc/>
    /// <exception cref="HttpRequestException">The server cannot be reached or answers with an error.</exception>
    /// <exception cref="TimeoutException">The server is silent for too long.</exception>
    /// <exception cref="ProblemException">The network may not be used, credentials are requested, or a redirect is not
    /// followed.</exception>
    public async Task<FetchedContent?> OpenAsync(FetchRequest request, CancellationToken cancel)
    {
        if (_isOffline) throw new Problem(
            ProblemCode.Unreachable, $"{request.Address} was not contacted", "--offline is set",
            "run it again without --offline").ToException();
        var (response, address) = await FollowAsync(request, cancel);
        try
        {
            if (request.From > 0 && IsOtherPart(response, request.From))
            {
                response.Dispose();
                return await OpenAsync(request with { From = 0 }, cancel);
            }

            return await ContentAsync(response, address, request, cancel);
        }
        catch
        {
            response.Dispose();
            throw;
        }
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        foreach (var client in _http.Values.Where(client => client.IsValueCreated)) client.Value.Dispose();
    }

    private HttpClient MakeClient(NetworkReach reach)
    {
        var http = new HttpClient(_host?.Network?.Invoke() ?? OwnHandler(reach)) { Timeout = Timeout.InfiniteTimeSpan };
        http.DefaultRequestHeaders.UserAgent.Add(
            new ProductInfoHeaderValue("acrate", typeof(HttpSource).Assembly.GetName().Version?.ToString(3)));
        return http;
    }

    private SocketsHttpHandler OwnHandler(NetworkReach reach) => new()
    {
        ConnectTimeout = _timeout, AutomaticDecompression = DecompressionMethods.None, AllowAutoRedirect = false,
        Proxy = _proxies.Value,
        ConnectCallback = reach == NetworkReach.Machine ? null : (context, cancel) => ConnectAsync(context, reach, cancel),
    };

    /// <summary>
    /// Connects to those addresses of a host that may be dialled, whatever its name has meant a moment before. A proxy is where
    /// the user has put it.
    /// </summary>
    private async ValueTask<Stream> ConnectAsync(
        SocketsHttpConnectionContext context, NetworkReach reach, CancellationToken cancel)
    {
        var socket = new Socket(SocketType.Stream, ProtocolType.Tcp) { NoDelay = true };
        try
        {
            if (_proxies.Value.GetProxy(context.InitialRequestMessage.RequestUri!) is not null)
                await socket.ConnectAsync(context.DnsEndPoint, cancel);
            else await socket.ConnectAsync(await AllowedAsync(context.DnsEndPoint, reach, cancel), context.DnsEndPoint.Port,
                cancel);
            return new NetworkStream(socket, ownsSocket: true);
        }
        catch
        {
            socket.Dispose();
            throw;
        }
    }

    private static async Task<IPAddress[]> AllowedAsync(DnsEndPoint host, NetworkReach reach, CancellationToken cancel)
    {
        var found = await Dns.GetHostAddressesAsync(host.Host, cancel);
        IPAddress[] allowed = [.. found.Where(address => NetworkReaches.Classify(address) <= reach)];
        return allowed.Length > 0 ? allowed : throw new IOException($"{host.Host} lies inside a private network");
    }

    /// <summary>How far inside a request may lead.</summary>
    /// <exception cref="ProblemException">Its address lies further in.</exception>
    private async Task<NetworkReach> ReachAsync(Uri address, Uri catalogue, CancellationToken cancel)
    {
        if (_reachesAll || catalogue.IsFile || (address == catalogue && address.IsLoopback)) return NetworkReach.Machine;
        var reach = await NetworkReaches.OfAsync(catalogue, cancel);
        if (reach == NetworkReach.Machine) return reach;
        var isProxied = !IPAddress.TryParse(address.DnsSafeHost, out _) && _proxies.Value.GetProxy(address) is not null;
        if (isProxied || await NetworkReaches.OfAsync(address, cancel) <= reach) return reach;
        throw new Problem(
            ProblemCode.NotVerified, $"{address.GetLeftPart(UriPartial.Path)} is not downloaded",
            $"it is on this machine or inside a private network, and {catalogue.Host}, which names it, does not",
            $"tell its maintainer; {SettingKey.InternalAddresses.Name} = \"allow\" in the settings lets it").ToException();
    }

    /// <summary>Asks, and goes where the server sends us.</summary>
    private async Task<(HttpResponseMessage Response, Uri Address)> FollowAsync(FetchRequest request, CancellationToken cancel)
    {
        var address = request.Address;
        var response = await AskAsync(address, request, cancel);
        for (var redirects = 0; IsRedirect(response); redirects++)
        {
            using var left = response;
            var location = left.Headers.Location ?? throw new HttpRequestException("the server redirects to nowhere");
            var next = new Uri(address, location);
            if (redirects == MostRedirects)
                throw new HttpRequestException($"the server redirects more than {MostRedirects} times");
            RequireSafe(address, next);
            address = next;
            response = await AskAsync(address, request, cancel);
        }

        return (response, address);
    }

    private async Task<FetchedContent?> ContentAsync(
        HttpResponseMessage response, Uri address, FetchRequest request, CancellationToken cancel)
    {
        if (response.StatusCode is HttpStatusCode.Unauthorized or HttpStatusCode.Forbidden && _credentials is not null)
        {
            throw new ServerAnswerException(response.StatusCode, null)
            {
                Known = new Problem(
                    ProblemCode.Unreachable, $"{address} may not be read",
                    $"the server answers {(int)response.StatusCode}: it asks for credentials",
                    _credentials.RemedyFor(address)),
            };
        }

        if (response.StatusCode == HttpStatusCode.NotModified && request.KnownMark is not null)
        {
            response.Dispose();
            return null;
        }

        if (!response.IsSuccessStatusCode) throw new ServerAnswerException(response.StatusCode, RetryAfter(response));
        var from = response.StatusCode == HttpStatusCode.PartialContent ? BeginOf(response) : 0;
        if (from != request.From && from != 0)
            throw new HttpRequestException($"the server sends from byte {from} on, and not from {request.From}");
        var body = await InTimeAsync(response.Content.ReadAsStreamAsync, cancel);
        var length = response.Content.Headers.ContentLength;
        var encoding = length == request.WholeLength - from ? null : response.Content.Headers.ContentEncoding.LastOrDefault();
        return new FetchedContent(Decoded(new TimeoutStream(body, _timeout), encoding), response)
        {
            Mark = MarkOf(response), From = from, Length = encoding is null ? length : null,
        };
    }

    /// <summary>Whether a server does not have the part that was requested, or sends another one.</summary>
    private static bool IsOtherPart(HttpResponseMessage response, long from) =>
        response.StatusCode == HttpStatusCode.RequestedRangeNotSatisfiable
        || (response.StatusCode == HttpStatusCode.PartialContent && BeginOf(response) != from);

    /// <summary>The first byte of a part (RFC 9110, 14.4).</summary>
    private static long BeginOf(HttpResponseMessage response) =>
        response.Content.Headers.ContentRange is { Unit: "bytes", From: { } from }
        ? from
        : throw new HttpRequestException("the server sends a part without saying which");

    /// <summary>
    /// Undoes an encoding that a server adds although none is requested; an unknown one is left, and will not verify.
    /// </summary>
    private static Stream Decoded(Stream body, string? encoding) => encoding?.ToLowerInvariant() switch
    {
        "gzip" or "x-gzip" => new GZipStream(body, CompressionMode.Decompress),
        "deflate" => new ZLibStream(body, CompressionMode.Decompress),
        "br" => new BrotliStream(body, CompressionMode.Decompress),
        _ => body,
    };

    /// <summary>How long a server asks to be left alone. A date is taken by the server's own clock: ours may be wrong.</summary>
    private static TimeSpan? RetryAfter(HttpResponseMessage response) => response.Headers.RetryAfter switch
    {
        { Delta: { } delta } => delta,
        { Date: { } date } => response.Headers.Date is { } now ? date - now : TimeSpan.Zero,
        _ => null,
    };

    private async Task<HttpResponseMessage> AskAsync(Uri address, FetchRequest asked, CancellationToken cancel)
    {
        RequireAuthorities(address);
        var reach = await ReachAsync(address, asked.Catalogue ?? asked.Address, cancel);
        using var request = new HttpRequestMessage(HttpMethod.Get, address);
        request.Headers.Authorization = _credentials?.For(address);
        if (asked.From > 0) request.Headers.Range = new RangeHeaderValue(asked.From, null);
        if (asked.KnownMark?.StartsWith("etag ", StringComparison.Ordinal) == true)
            request.Headers.TryAddWithoutValidation("If-None-Match", asked.KnownMark[5..]);
        if (asked.KnownMark?.StartsWith("date ", StringComparison.Ordinal) == true)
            request.Headers.TryAddWithoutValidation("If-Modified-Since", asked.KnownMark[5..]);
        var response =
            await InTimeAsync(token =>
                _http[reach].Value.SendAsync(request, HttpCompletionOption.ResponseHeadersRead, token), cancel);
        _host?.Trace(
            $"GET {address.GetLeftPart(UriPartial.Path)}{(asked.From > 0 ? $" from byte {asked.From}" : "")}: "
                + $"{(int)response.StatusCode}");
        return response;
    }

    private void RequireAuthorities(Uri address)
    {
        if (address.Scheme != Uri.UriSchemeHttps || _hasAuthorities.Value) return;
        throw new Problem(
            ProblemCode.Unreachable, $"{address.GetLeftPart(UriPartial.Path)} cannot be reached",
            "this machine has no CA certificates, so it cannot check whether a server is genuine",
            "install the package ca-certificates, or name a file with certificates in SSL_CERT_FILE").ToException();
    }

    private static bool IsRedirect(HttpResponseMessage response) => response.StatusCode
        is HttpStatusCode.MovedPermanently or HttpStatusCode.Found or HttpStatusCode.SeeOther or HttpStatusCode.TemporaryRedirect
            or HttpStatusCode.PermanentRedirect;

    private static void RequireSafe(Uri from, Uri to)
    {
        var isSafe = to.Scheme == Uri.UriSchemeHttps
            || (to.Scheme == Uri.UriSchemeHttp && from.Scheme == Uri.UriSchemeHttp
                && (to.IsLoopback || string.Equals(to.Host, from.Host, StringComparison.OrdinalIgnoreCase)));
        if (!isSafe)
            throw new Problem(
                ProblemCode.NotVerified,
                $"{from} redirects to {to.GetLeftPart(UriPartial.Path)}, which is not followed",
                "only redirects to https are followed",
                "tell its maintainer, or use the address that it redirects to").ToException();
    }

    private static string? MarkOf(HttpResponseMessage response) =>
        response.Headers.ETag is { } tag ? $"etag {tag}"
        : response.Content.Headers.LastModified is { } date ? $"date {date:R}" : null;

    private async Task<T> InTimeAsync<T>(Func<CancellationToken, Task<T>> act, CancellationToken cancel)
    {
        using var limit = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        limit.CancelAfter(_timeout);
        try
        {
            return await act(limit.Token);
        }
        catch (OperationCanceledException late) when (!cancel.IsCancellationRequested)
        {
            throw new TimeoutException($"the server does not answer within {_timeout.TotalSeconds:0} seconds", late);
        }
    }
}
