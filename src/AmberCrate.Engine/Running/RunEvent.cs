using AmberCrate.Core.Planning;
using AmberCrate.Core.Runs;

namespace AmberCrate.Engine.Running;

/// <summary>Something that happens in a run, for those who watch it.</summary>
public abstract record RunEvent
{
    private RunEvent()
    {
    }

    /// <summary>A stage of an item begins.</summary>
    /// <param name="Number">The item's place among those that change something, from 1.</param>
    /// <param name="Count">How many of those there are.</param>
    /// <param name="Item">The item.</param>
    /// <param name="Stage">The stage.</param>
    public sealed record StageBegins(int Number, int Count, PlanItem Item, RunStage Stage) : RunEvent;

    /// <summary>Bytes of an item's artifact have arrived.</summary>
    /// <param name="Number">The item's place.</param>
    /// <param name="Count">How many items there are.</param>
    /// <param name="Item">The item.</param>
    /// <param name="Arrived">Bytes so far.</param>
    /// <param name="Expected">Bytes in all.</param>
    public sealed record BytesArrive(int Number, int Count, PlanItem Item, long Arrived, long Expected) : RunEvent;

    /// <summary>An item has ended.</summary>
    /// <param name="Number">The item's place; 0 where it changes nothing.</param>
    /// <param name="Count">How many items change something.</param>
    /// <param name="Report">How it ended.</param>
    public sealed record ItemEnds(int Number, int Count, ItemReport Report) : RunEvent;
}
