using AmberCrate.Core.Due;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Offers;
using AmberCrate.Core.Pins;

namespace AmberCrate.Engine.Pinning;

/// <summary>The pins of a machine, and what each holds back.</summary>
/// <param name="Pins">The pins, ordered by the ids of their apps.</param>
public sealed record PinsResult(IReadOnlyList<PinnedApp> Pins)
{
    /// <summary>The pin that was set or lifted; null where none was.</summary>
    public Pin? Changed { get; init; }

    /// <summary>Whether that pin was lifted.</summary>
    public bool IsLifted { get; init; }

    /// <summary>Whether the app had a pin before.</summary>
    public bool WasThere { get; init; }

    internal static PinsResult Read(MachineState machine, IOffers offers) =>
        new PinsResult([.. machine.Pins.All.Select(pin => new PinnedApp(
            pin, pin.IsLapsed(machine.Pins.Today), machine.Find(pin.App),
            machine.Find(pin.App) is { } app ? DueEntry.Compare(app, offers, machine) : null))]);
}
