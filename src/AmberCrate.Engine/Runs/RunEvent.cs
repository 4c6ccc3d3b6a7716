using AmberCrate.Core.Runs;

namespace AmberCrate.Engine.Runs;

/// <summary>
/// Something that happens in a run, for those who watch it. Events come one at a time, though from several threads.
/// </summary>
public abstract record RunEvent
{
    private RunEvent()
    {
    }

    /// <summary>The run begins.</summary>
    /// <param name="Count">How many items change something.</param>
    /// <param name="Bytes">How many bytes there are to fetch, those included that the cache holds.</param>
    public sealed record Begins(int Count, long Bytes) : RunEvent;

    /// <summary>A stage of an item begins.</summary>
    /// <param name="Place">The item.</param>
    /// <param name="Stage">The stage.</param>
    public sealed record StageBegins(ItemPosition Place, RunStage Stage) : RunEvent;

    /// <summary>Bytes of an item's artifact have arrived.</summary>
    /// <param name="Place">The item.</param>
    /// <param name="Arrived">Bytes so far.</param>
    /// <param name="Expected">Bytes in all; 0 where that is not known.</param>
    public sealed record BytesArrive(ItemPosition Place, long Arrived, long Expected) : RunEvent;

    /// <summary>A transfer waits before it is tried again.</summary>
    /// <param name="Place">The item.</param>
    /// <param name="Wait">How long; zero where that is not known.</param>
    /// <param name="Why">Why it could not go on.</param>
    public sealed record Waits(ItemPosition Place, TimeSpan Wait, string Why) : RunEvent;

    /// <summary>The artifact of an item is there, and the item waits for its turn.</summary>
    /// <param name="Place">The item.</param>
    public sealed record Fetched(ItemPosition Place) : RunEvent;

    /// <summary>An item has ended.</summary>
    /// <param name="Place">The item.</param>
    /// <param name="Report">How it ended.</param>
    public sealed record ItemEnds(ItemPosition Place, ItemReport Report) : RunEvent;
}
