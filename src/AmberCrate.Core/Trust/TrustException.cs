namespace AmberCrate.Core.Trust;

/// <summary>A check of signed metadata has failed. Nothing of what was checked may be used.</summary>
/// <param name="check">Which check: what was looked at, in words that a technician understands.</param>
/// <param name="why">What was found.</param>
/// <param name="step">The step of the specification (The Update Framework 1.0, section 5), such as <c>5.4.3</c>.</param>
/// <param name="cause">What has shown it; null for nothing.</param>
public class TrustException(string check, string why, string step, Exception? cause = null)
    : Exception($"{check}: {why}", cause)
{
    /// <summary>Which check has failed.</summary>
    public string Check => check;

    /// <summary>What was found.</summary>
    public string Why => why;

    /// <summary>The step of the specification.</summary>
    public string Step => step;
}
