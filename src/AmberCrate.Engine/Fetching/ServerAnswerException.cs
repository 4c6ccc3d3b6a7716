using System.Net;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Fetching;

/// <summary>A server answers with an error.</summary>
/// <param name="status">The status.</param>
/// <param name="retryAfter">How long it asks to be left alone; null where it does not.</param>
public sealed class ServerAnswerException(HttpStatusCode status, TimeSpan? retryAfter)
    : HttpRequestException($"the server answers {(int)status}", null, status), IHasProblem
{
    /// <summary>The problem, if more is known than the status.</summary>
    public Problem? Known { get; init; }

    /// <summary>How long the server asks to be left alone; null where it does not.</summary>
    public TimeSpan? RetryAfter { get; } = retryAfter;

    /// <summary>Whether the same question may have a better answer later.</summary>
    public bool IsPassing => StatusCode is HttpStatusCode.RequestTimeout or HttpStatusCode.TooManyRequests or (HttpStatusCode)425
        or HttpStatusCode.InternalServerError or HttpStatusCode.BadGateway
        or HttpStatusCode.ServiceUnavailable or HttpStatusCode.GatewayTimeout;

    private bool AsksForTooLong => RetryAfter > RetryRule.LongestAskedFor;

    /// <inheritdoc/>
    Problem IHasProblem.Explain(string what)
    {
        if (Known is not null) return Known;
        var asks =
            AsksForTooLong ? $", and asks to be left alone for {Math.Ceiling(RetryAfter!.Value.TotalMinutes):0} minutes" : "";
        return new Problem(
            ProblemCode.Unreachable, what, $"the server answers {(int)StatusCode!} {Words(StatusCode!.Value)}{asks}", Remedy());
    }

    private Advice Remedy() => SourceFault.IsMissing(this) ? IoProblems.WhenGone
        : AsksForTooLong ? "try again after that time"
        : "check the network and the server, then try again";

    private static string Words(HttpStatusCode status) =>
        string.Concat(status.ToString().Select((letter, at) => at > 0 && char.IsUpper(letter) ? $" {letter}" : $"{letter}"));
}
