using AmberCrate.Cli.Terminal;
using AmberCrate.Cli.Texts;
using AmberCrate.Core.Pins;
using AmberCrate.Engine.Pinning;

namespace AmberCrate.Cli.Shared;

/// <summary>The pins of a machine, as JSON.</summary>
internal sealed record PinsDocument(IReadOnlyList<PinDocument> Pins, int Format = DocumentFormat.Number)
{
    public static PinsDocument FromResult(PinsResult result) => new(
        [.. result.Pins.Select(one => PinDocument.OfMaybe(one.Pin, one.IsLapsed)! with
        {
            Installed = one.Installed?.Version.Text, HoldsBack = one.HoldsBack?.Text,
        })]);
}

/// <summary>A pin, as JSON.</summary>
internal sealed record PinDocument(string App, string To, string? Reason, string? Until, string Since, bool Lapsed)
{
    public string? Installed { get; init; }

    public string? HoldsBack { get; init; }

    public static PinDocument? OfMaybe(Pin? pin, bool isLapsed) => pin is null ? null : new PinDocument(
        pin.App.Text, pin.Selector.ToString(), pin.Reason, pin.Until is { } until ? PlainText.Date(until) : null,
        PlainText.Time(pin.Since), isLapsed);
}
