using AmberCrate.Engine.Host;
using AmberCrate.Engine.Trust;

namespace AmberCrate.Engine.Publishing;

/// <summary>How a catalogue is to be published.</summary>
/// <param name="Cards">The folder of cards.</param>
/// <param name="Target">The folder to publish to.</param>
/// <param name="WithArtifacts">Whether artifacts that are beside the cards are verified and copied.</param>
/// <param name="IsFull">Whether every app is written again.</param>
/// <param name="Exports">A folder of exports to count popularity from; null to keep what is published.</param>
/// <param name="IsPruning">Whether artifacts are removed that no card names any more.</param>
public sealed record BuildRequest(
    string Cards, string Target, bool WithArtifacts, bool IsFull, string? Exports = null, bool IsPruning = false)
{
    /// <summary>Makes the pages; null where there are none to be made.</summary>
    public IPageMaker? Pages { get; init; }

    /// <summary>The maintainer's keys; null to sign nothing.</summary>
    public KeyRing? Keys { get; init; }

    /// <summary>The name under which a catalogue leaves apps to who publishes; null for its own maintainers.</summary>
    public string? As { get; init; }

    /// <summary>Hears how far the work is.</summary>
    public WorkProgress Progress { get; init; } = (_, _, _) => { };

    /// <summary>Whether pages are wanted. Those that are there are renewed in any case.</summary>
    public bool WithPages { get; init; }
}
