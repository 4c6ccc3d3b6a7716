namespace AmberCrate.Core.Trust;

/// <summary>Signed metadata have expired. Everything else about them may be right, so the user may accept them.</summary>
/// <param name="what">What has expired, such as a role.</param>
/// <param name="why">When it ended, and the time on this machine's clock.</param>
/// <param name="step">The step of the specification (The Update Framework 1.0, section 5).</param>
public sealed class ExpiredTrustException(string what, string why, string step)
    : TrustException($"expiry of {what}", why, step);
