using AmberCrate.Core.Problems;

namespace AmberCrate.Engine.Fetching;

/// <summary>
/// Tries again after growing waits where the reason of a failure may pass. Progress, seen by a request that begins further on
/// than the last, starts the count again. To be used for one file only.
/// </summary>
/// <param name="inner">Opens the file.</param>
/// <param name="retries">When to try again.</param>
/// <param name="clock">Waits.</param>
/// <param name="waits">Receives how long it will wait, and why; null for nobody.</param>
internal sealed class RetriedSource(
    IByteSource inner, RetryRule retries, TimeProvider clock, Action<TimeSpan, string>? waits) : IByteSource
{
    private long _furthest;
    private int _failed = 1;

    /// <inheritdoc/>
    /// <exception cref="ProblemException">It fails, and trying again can do no good or has been done often enough.</exception>
    public async Task<FetchedContent?> OpenAsync(FetchRequest request, CancellationToken cancel)
    {
        if (request.From > _furthest) (_furthest, _failed) = (request.From, 1);
        while (true)
        {
            SourceFault fault;
            try
            {
                return await inner.OpenAsync(request, cancel);
            }
            catch (Exception failure) when (SourceFault.IsOfSource(failure))
            {
                fault = SourceFault.FromException(failure, request.Address);
            }

            if (fault.IsHopeless || retries.WaitAfter(_failed, fault.RetryAfter) is not { } wait)
                throw Final(fault).ToException();
            _failed++;
            waits?.Invoke(wait, fault.Waits);
            await Task.Delay(wait, clock, cancel);
        }
    }

    private Problem Final(SourceFault fault) =>
        _failed > 1 ? fault.Problem with { Why = $"{fault.Problem.Why}; tried {_failed} times" } : fault.Problem;
}
