using System.Net;

namespace AmberCrate.Engine.Fetching;

/// <summary>A server answers with an error.</summary>
/// <param name="status">The status.</param>
/// <param name="retryAfter">How long it asks to be left alone; null where it does not.</param>
public sealed class ServerAnswerException(HttpStatusCode status, TimeSpan? retryAfter) : HttpRequestException($"the server answers {(int)status}", null, status)
{
    /// <summary>How long the server asks to be left alone; null where it does not.</summary>
    public TimeSpan? RetryAfter { get; } = retryAfter;

    /// <summary>Whether the same question may have a better answer later.</summary>
    public bool IsPassing => StatusCode is HttpStatusCode.RequestTimeout or HttpStatusCode.TooManyRequests or (HttpStatusCode)425
        or HttpStatusCode.InternalServerError or HttpStatusCode.BadGateway or HttpStatusCode.ServiceUnavailable or HttpStatusCode.GatewayTimeout;
}
