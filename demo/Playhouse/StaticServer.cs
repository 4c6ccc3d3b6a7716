using System.Collections.Concurrent;
using System.Net;
using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Server.Kestrel.Core;
using Microsoft.Extensions.Hosting;
using Microsoft.Extensions.Logging;

namespace AmberCrate.Playhouse;

/// <summary>
/// Serves a folder on a free loopback port, with conditional requests, and with faults where a test asks for them.
/// </summary>
public sealed class StaticServer : IAsyncDisposable
{
    private const long LargeFile = 64L << 20;

    private static readonly Dictionary<string, string> Types = new()
    {
        [".html"] = "text/html", [".css"] = "text/css", [".js"] = "text/javascript", [".png"] = "image/png",
        [".svg"] = "image/svg+xml",
    };

    private readonly WebApplication _app;
    private readonly string _folder;
    private TimeSpan _roundTrip;

    private StaticServer(WebApplication app, string folder) => (_app, _folder) = (app, folder);

    /// <summary>The address of the folder, ending in a slash.</summary>
    public Uri Address => new(_app.Urls.First() + "/");

    /// <summary>What goes wrong with a path, by its ending; nothing where it is not named.</summary>
    public ConcurrentDictionary<string, ServerFault> Faults { get; } = new();

    /// <summary>Every request so far: its path and the status that was answered.</summary>
    public ConcurrentQueue<(string Path, int Status)> Requests { get; } = new();

    /// <summary>The Authorization header that every request must carry; null where none is asked for.</summary>
    public string? RequiredAuthorization { get; set; }

    /// <summary>Every Authorization header that has come.</summary>
    public ConcurrentQueue<string> Authorizations { get; } = new();

    /// <summary>Starts a server.</summary>
    /// <param name="folder">What to serve.</param>
    /// <param name="roundTrip">How long a round trip is to take, on top of what it takes.</param>
    /// <param name="certificate">For https; null for plain http.</param>
    public static async Task<StaticServer> StartAsync(
        string folder, TimeSpan roundTrip = default, X509Certificate2? certificate = null)
    {
        var builder = WebApplication.CreateSlimBuilder(new WebApplicationOptions { ContentRootPath = AppContext.BaseDirectory });
        builder.Logging.ClearProviders();
        builder.WebHost.ConfigureKestrel(kestrel => kestrel.Listen(IPAddress.Loopback, 0, listen =>
        {
            listen.Protocols = HttpProtocols.Http1;
            if (certificate is not null) listen.UseHttps(certificate);
            if (roundTrip == default) return;
            listen.Use(next => async connection =>
            {
                await Task.Delay(roundTrip, connection.ConnectionClosed);
                await next(connection);
            });
        }));
        var app = builder.Build();
        var server = new StaticServer(app, Path.GetFullPath(folder)) { _roundTrip = roundTrip };
        app.Run(server.AnswerAsync);
        await app.StartAsync();
        return server;
    }

    /// <summary>Waits until the process is told to stop (SIGINT, SIGTERM).</summary>
    public Task WaitForStopAsync() => HostingAbstractionsHostExtensions.WaitForShutdownAsync(_app);

    public async ValueTask DisposeAsync()
    {
        using var soon = new CancellationTokenSource(TimeSpan.FromMilliseconds(200));
        await _app.StopAsync(soon.Token);
        await _app.DisposeAsync();
    }

    private async Task AnswerAsync(HttpContext context)
    {
        var path = Uri.UnescapeDataString(context.Request.Path.Value ?? "/").TrimStart('/');
        if (path.Length == 0) path = "index.html";

        context.Response.ContentType = Types.GetValueOrDefault(Path.GetExtension(path));

        // Before anything of the answer leaves: whoever has read it finds it here.
        context.Response.OnStarting(() =>
        {
            Requests.Enqueue((path, context.Response.StatusCode));
            return Task.CompletedTask;
        });
        await AnswerAsync(context, path);
    }

    private async Task AnswerAsync(HttpContext context, string path)
    {
        if (_roundTrip != default) await Task.Delay(_roundTrip, context.RequestAborted);
        var fault = Faults.FirstOrDefault(fault => path.EndsWith(fault.Key, StringComparison.Ordinal)).Value;
        if (fault is ServerFault.First first) fault = first.Next();
        var file = Path.GetFullPath(Path.Combine(_folder, path));
        var authorization = context.Request.Headers.Authorization.ToString();
        if (authorization.Length > 0) Authorizations.Enqueue(authorization);
        if (Refuses(context, authorization, file, fault)) return;
        if (new FileInfo(file).Length > LargeFile)
        {
            await SendLargeAsync(context, file);
            return;
        }

        var bytes = await File.ReadAllBytesAsync(file, context.RequestAborted);
        if (fault is ServerFault.OtherBytes) bytes = [.. bytes.Select(b => (byte)~b)];
        if (fault is ServerFault.OtherFile other) bytes = other.Bytes;
        var tag = $"\"{Convert.ToHexStringLower(SHA256.HashData(bytes))[..32]}\"";
        context.Response.Headers.ETag = tag;
        if (context.Request.Headers.IfNoneMatch.ToString() == tag)
        {
            context.Response.StatusCode = StatusCodes.Status304NotModified;
            return;
        }

        if (RangeOf(context) is { } from && fault is not ServerFault.NoRanges)
        {
            if (from >= bytes.Length)
            {
                context.Response.StatusCode = StatusCodes.Status416RangeNotSatisfiable;
                return;
            }

            if (fault is ServerFault.OtherRange) from /= 2;
            context.Response.StatusCode = StatusCodes.Status206PartialContent;
            context.Response.Headers.ContentRange = $"bytes {from}-{bytes.Length - 1}/{bytes.Length}";
            bytes = bytes[(int)(fault is ServerFault.ShiftedRange ? Math.Min(from + 1, bytes.Length) : from)..];
        }

        if (fault is ServerFault.Compressed or ServerFault.SaysCompressed) context.Response.Headers.ContentEncoding = "gzip";
        if (fault is ServerFault.Compressed) bytes = ArtifactForge.Gzip(bytes);
        if (fault is not ServerFault.NoLength) context.Response.ContentLength = bytes.Length;
        await SendAsync(context, bytes, fault);
    }

    /// <summary>Answers with anything but a file, where that is due; false where the file is to be sent.</summary>
    private bool Refuses(HttpContext context, string authorization, string file, ServerFault? fault)
    {
        var response = context.Response;
        if (RequiredAuthorization is not null && authorization != RequiredAuthorization)
        {
            response.StatusCode = StatusCodes.Status401Unauthorized;
            return true;
        }

        switch (fault)
        {
            case ServerFault.Redirect redirect:
                response.Redirect(redirect.To);
                return true;
            case ServerFault.Later later:
                response.StatusCode = later.Code;
                response.Headers.RetryAfter = later.RetryAfter;
                return true;
            case ServerFault.Status status:
                response.StatusCode = status.Code;
                return true;
        }

        if (file.StartsWith(_folder + "/", StringComparison.Ordinal) && File.Exists(file)) return false;
        response.StatusCode = StatusCodes.Status404NotFound;
        return true;
    }

    private static async Task SendLargeAsync(HttpContext context, string file)
    {
        var length = new FileInfo(file).Length;
        var from = RangeOf(context) ?? 0;
        if (from > 0)
        {
            context.Response.StatusCode = StatusCodes.Status206PartialContent;
            context.Response.Headers.ContentRange = $"bytes {from}-{length - 1}/{length}";
        }

        context.Response.ContentLength = length - from;
        await context.Response.SendFileAsync(file, from, null, context.RequestAborted);
    }

    private static long? RangeOf(HttpContext context) =>
        context.Request.Headers.Range.ToString() is var range && range.StartsWith("bytes=", StringComparison.Ordinal)
            && range.EndsWith('-') ? long.Parse(range[6..^1], System.Globalization.CultureInfo.InvariantCulture) : null;

    private static async Task SendAsync(HttpContext context, byte[] bytes, ServerFault? fault)
    {
        var half = bytes.AsMemory(0, bytes.Length / 2);
        switch (fault)
        {
            case ServerFault.CutShort:
                await context.Response.Body.WriteAsync(half, context.RequestAborted);
                await context.Response.Body.FlushAsync(context.RequestAborted);

                // A reset throws away what the other side has not read yet.
                await Task.Delay(50, context.RequestAborted);
                context.Abort();
                break;
            case ServerFault.Stall:
                await context.Response.Body.WriteAsync(half, context.RequestAborted);
                await context.Response.Body.FlushAsync(context.RequestAborted);
                try
                {
                    await Task.Delay(TimeSpan.FromMinutes(2), context.RequestAborted);
                }
                catch (OperationCanceledException)
                {
                    // The client has given up, as it should.
                }

                break;
            case ServerFault.Slow slow:
                foreach (var part in bytes.Chunk(Math.Max(1, slow.BytesPerSecond / 20)))
                {
                    await context.Response.Body.WriteAsync(part, context.RequestAborted);
                    await Task.Delay(50, context.RequestAborted);
                }

                break;
            default:
                await context.Response.Body.WriteAsync(bytes, context.RequestAborted);
                break;
        }
    }
}
