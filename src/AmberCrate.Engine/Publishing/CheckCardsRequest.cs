namespace AmberCrate.Engine.Publishing;

/// <summary>Cards to be checked.</summary>
/// <param name="Places">Card files, and folders of cards.</param>
/// <param name="BaseSystem">The root of the system on which programs must find their libraries; null for this machine.</param>
/// <param name="IsReaching">Whether addresses are asked, and what they send is checked.</param>
public sealed record CheckCardsRequest(IReadOnlyList<string> Places, string? BaseSystem, bool IsReaching)
{
    /// <summary>For how long each program of the newest releases is started and watched; null for not at all.</summary>
    public TimeSpan? StartTime { get; init; }
}
