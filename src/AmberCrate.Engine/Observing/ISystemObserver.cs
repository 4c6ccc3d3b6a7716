using AmberCrate.Core.Machine;

namespace AmberCrate.Engine.Observing;

/// <summary>Finds software of one sort that others have put on the machine.</summary>
public interface ISystemObserver
{
    /// <summary>Finds it.</summary>
    /// <param name="say">Receives what could not be read.</param>
    /// <param name="cancel">Cancels the operation.</param>
    IEnumerable<ObservedApp> Observe(Action<string> say, CancellationToken cancel);
}
