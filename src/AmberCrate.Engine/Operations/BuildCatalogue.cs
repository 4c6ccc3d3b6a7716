using AmberCrate.Core.Problems;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Operations;

/// <summary>Checks a folder of cards and publishes it.</summary>
/// <param name="host">What is around the program.</param>
public sealed class BuildCatalogue(HostEnvironment host)
{
    /// <summary>Does it.</summary>
    /// <param name="cards">The folder of cards.</param>
    /// <param name="target">The folder to publish to.</param>
    /// <param name="withArtifacts">Whether artifacts that lie beside the cards are verified and copied.</param>
    /// <param name="isFull">Whether every app is written again.</param>
    /// <param name="cancel">Stops.</param>
    /// <exception cref="ProblemException">A card has faults, or the folder cannot be written.</exception>
    public async Task<PublishResult> RunAsync(
        string cards, string target, bool withArtifacts, bool isFull, CancellationToken cancel)
    {
        if (!Directory.Exists(cards)) throw new Problem(ProblemCode.NothingMatched, $"there is no folder {cards}").ToException();
        var document = await CataloguePublisher.PublishAsync(cards, target, withArtifacts, isFull, cancel);
        return new PublishResult(target, host.FullPath(target), document);
    }
}
