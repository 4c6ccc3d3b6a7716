namespace AmberCrate.Engine.Fetching;

/// <summary>
/// When a transfer that has failed for a passing reason is tried again: after waits that double, within bounds.
/// </summary>
/// <param name="Rounds">How many rounds over all sources are made before giving up; progress begins the count again.</param>
/// <param name="FirstWait">The wait after the first round that failed.</param>
public sealed record RetryRule(int Rounds, TimeSpan FirstWait)
{
    /// <summary>What holds unless a user has set otherwise: waits of 1, 2, 4 and 8 seconds.</summary>
    public static readonly RetryRule Usual = new(5, TimeSpan.FromSeconds(1));

    /// <summary>The longest wait of our own.</summary>
    public static readonly TimeSpan LongestWait = TimeSpan.FromMinutes(1);

    /// <summary>The longest wait that a server may ask for; beyond it the transfer fails and a later run has to do it.</summary>
    public static readonly TimeSpan LongestAskedFor = TimeSpan.FromMinutes(10);

    /// <summary>How long to wait before the next round; null where there is none.</summary>
    /// <param name="failed">How many rounds in a row have failed, from 1.</param>
    /// <param name="askedFor">How long the server asks to be left alone (RFC 9110, 10.2.3); null where it does not.</param>
    public TimeSpan? WaitAfter(int failed, TimeSpan? askedFor)
    {
        if (failed >= Rounds || askedFor > LongestAskedFor) return null;
        var own = FirstWait * Math.Pow(2, Math.Min(failed - 1, 20));
        var wait = own < LongestWait ? own : LongestWait;
        return askedFor > wait ? askedFor : wait;
    }
}
