using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Pins;

/// <summary>The pins of a machine on a day.</summary>
/// <param name="pins">All pins; the last one of an app counts.</param>
/// <param name="today">The day.</param>
public sealed class PinList(IEnumerable<Pin> pins, DateOnly today)
{
    private readonly Dictionary<AppId, Pin> _pins = ById(pins);

    /// <summary>No pins.</summary>
    public static PinList None { get; } = new([], DateOnly.MinValue);

    /// <summary>The day.</summary>
    public DateOnly Today { get; } = today;

    /// <summary>All of them, ordered by the ids of their apps.</summary>
    public IEnumerable<Pin> All => _pins.Values.OrderBy(pin => pin.App.Text, StringComparer.Ordinal);

    /// <summary>The pin of an app, lapsed or not; null for none.</summary>
    public Pin? Find(AppId app) => _pins.GetValueOrDefault(app);

    /// <summary>The pin of an app that holds today; null for none.</summary>
    public Pin? InForce(AppId app) => Find(app) is { } pin && !pin.IsLapsed(Today) ? pin : null;

    /// <summary>Whether the pin of an app, if there is one, lets it have a version.</summary>
    public bool Accepts(AppId app, AppVersion version, ReleaseLine line) =>
        InForce(app) is not { } pin || pin.Selector.Accepts(version, line);

    /// <summary>The same with other pins instead of those of their apps.</summary>
    public PinList With(IEnumerable<Pin> others) => new(_pins.Values.Concat(others), Today);

    private static Dictionary<AppId, Pin> ById(IEnumerable<Pin> pins)
    {
        var byId = new Dictionary<AppId, Pin>();
        foreach (var pin in pins) byId[pin.App] = pin;
        return byId;
    }
}
