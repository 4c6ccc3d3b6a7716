using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Runs;

namespace AmberCrate.Engine.Sessions;

/// <summary>What an operation has to say while it works. How that looks is the business of whoever watches.</summary>
public abstract record OperationEvent
{
    private OperationEvent()
    {
    }

    /// <summary>A remark that is no part of the result.</summary>
    /// <param name="Text">The remark.</param>
    public sealed record Noticed(Advice Text) : OperationEvent;

    /// <summary>A refresh gets on.</summary>
    /// <param name="Name">The catalogue.</param>
    /// <param name="Done">How many of its new parts have been fetched.</param>
    /// <param name="Count">How many there are.</param>
    public sealed record Refreshing(CatalogueName Name, int Done, int Count) : OperationEvent;

    /// <summary>A large file is being written.</summary>
    /// <param name="Name">The file.</param>
    /// <param name="Done">How many of its bytes are written.</param>
    /// <param name="Size">How many it will have.</param>
    public sealed record Writing(string Name, long Done, long Size) : OperationEvent;

    /// <summary>Long work that is not a run: how far it is.</summary>
    /// <param name="What">What is done, such as "checking cards".</param>
    /// <param name="Done">How many of the things are done.</param>
    /// <param name="Count">How many there are.</param>
    public sealed record Working(string What, int Done, int Count) : OperationEvent;

    /// <summary>A refresh or other long work is over; what was said about it can go.</summary>
    public sealed record WorkEnds : OperationEvent;

    /// <summary>A plan is made, and is to be shown before anybody is asked.</summary>
    /// <param name="Plan">The plan.</param>
    /// <param name="Digest">By what it is recognised.</param>
    public sealed record Planned(SurveyedPlan Plan, Sha256Digest Digest) : OperationEvent;

    /// <summary>An earlier run is being retried.</summary>
    /// <param name="Number">Its number.</param>
    /// <param name="Command">The command as it was typed.</param>
    public sealed record Retrying(long Number, string Command) : OperationEvent;

    /// <summary>It is known what would be deleted to free space, and is to be shown before anybody is asked.</summary>
    /// <param name="Plan">What.</param>
    public sealed record Reclaiming(ReclaimPlan Plan) : OperationEvent;

    /// <summary>An earlier run is being undone.</summary>
    /// <param name="Number">Its number.</param>
    /// <param name="Command">The command as it was typed.</param>
    public sealed record Undoing(long Number, string Command) : OperationEvent;

    /// <summary>A run begins; further events follow until its report.</summary>
    /// <param name="TakesTerminal">Whether a foreign program is answered on the terminal, so that nothing may be drawn
    /// there.</param>
    public sealed record RunBegins(bool TakesTerminal) : OperationEvent;

    /// <summary>Something happens in the run.</summary>
    /// <param name="Event">What.</param>
    public sealed record Happened(RunEvent Event) : OperationEvent;
}
