using AmberCrate.Core.Problems;

namespace AmberCrate.Engine.Host;

/// <summary>An exception about the machine or the network that knows how to say itself in the words of the trade.</summary>
internal interface IHasProblem
{
    /// <summary>The problem behind the exception.</summary>
    /// <param name="what">What was being done, as the beginning of a sentence.</param>
    Problem Explain(string what);

    /// <summary>Whether the disk has no room left.</summary>
    bool IsNoRoom => false;
}
