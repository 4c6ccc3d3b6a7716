using System.Net;
using System.Security.Authentication;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Fetching;

/// <summary>How a source has failed.</summary>
/// <param name="Problem">The failure in words.</param>
/// <param name="IsHopeless">Whether trying again can do no good.</param>
/// <param name="RetryAfter">How long the source asks to be left alone; null where it does not.</param>
public sealed record SourceFault(Problem Problem, bool IsHopeless, TimeSpan? RetryAfter)
{
    /// <summary>What to say while waiting to try again.</summary>
    public string Waits { get; init; } = Problem.Why;

    /// <summary>Whether an exception blames a source rather than this machine or a mistake in this program.</summary>
    public static bool IsOfSource(Exception fault) =>
        fault is SourcesFailedException or HttpRequestException or TimeoutException or ProblemException or InvalidDataException
            or FileNotFoundException or DirectoryNotFoundException;

    /// <summary>
    /// Whether an exception says that a place has no such file. Some file stores answer 403 (forbidden) for a missing file to
    /// those who may not list it.
    /// </summary>
    /// <param name="fault">The exception.</param>
    /// <param name="isProbed">Whether the file may well be missing, so that 403 means that too.</param>
    public static bool IsMissing(Exception fault, bool isProbed = false) =>
        fault is FileNotFoundException or DirectoryNotFoundException
        || fault is HttpRequestException { StatusCode: HttpStatusCode.NotFound or HttpStatusCode.Gone }
        || (isProbed && fault is HttpRequestException { StatusCode: HttpStatusCode.Forbidden });

    /// <summary>The fault behind an exception.</summary>
    /// <param name="fault">One that <see cref="IsOfSource"/> accepts.</param>
    /// <param name="address">The address that was opened.</param>
    public static SourceFault FromException(Exception fault, Uri address)
    {
        if (fault is SourcesFailedException all) return all.Fault;
        var problem = IoProblems.ToProblem(fault, $"{Shown(address)} cannot be downloaded");
        return fault switch
        {
            ServerAnswerException answer =>
                new SourceFault(problem, !answer.IsPassing || answer.RetryAfter > RetryRule.LongestAskedFor, answer.RetryAfter),
            HttpRequestException http => new SourceFault(problem, IsUntrusted(http), null),
            TimeoutException => new SourceFault(problem, IsHopeless: false, null),
            _ => new SourceFault(problem, IsHopeless: true, null),
        };
    }

    /// <summary>An address as people write it: without what follows its path, and a plain path for files.</summary>
    public static string Shown(Uri address) => address.IsFile ? address.LocalPath : address.GetLeftPart(UriPartial.Path);

    private static bool IsUntrusted(HttpRequestException fault) =>
        fault.HttpRequestError == HttpRequestError.SecureConnectionError || fault.InnerException is AuthenticationException;
}
