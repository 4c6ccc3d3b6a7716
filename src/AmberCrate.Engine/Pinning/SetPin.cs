using AmberCrate.Core.Due;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Offers;
using AmberCrate.Core.Pins;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Pinning;

/// <summary>Sets and lifts pins.</summary>
/// <param name="session">The session.</param>
public sealed class SetPin(Session session)
{
    /// <summary>Sets a pin, and replaces the app's earlier one.</summary>
    /// <param name="reference">The app, and what it may be; without a selector its installed version.</param>
    /// <param name="reason">Why; null for no reason.</param>
    /// <param name="until">The last day on which it holds; null for no end.</param>
    /// <exception cref="ProblemException">It cannot be set.</exception>
    public PinsResult Set(AppReference reference, string? reason, DateOnly? until)
    {
        using var station = new RootOpener(session).ToChangeAtOnce();
        if (until < session.Today)
            throw new Problem(
                ProblemCode.BadCommandLine, $"the pin would have ended on {until:yyyy-MM-dd}",
                $"today is {session.Today:yyyy-MM-dd}", "give a later day, or leave out --until").ToException();
        var (machine, offers) = (station.Apps.Read(), station.Catalogues.Offers());
        var (id, installed) = Meant(reference, machine, offers);
        var selector = reference.Selector ?? (installed is null ? null : new VersionSelector.Exactly(installed.Version));
        if (selector is null)
            throw new Problem(
                ProblemCode.NothingMatched, $"{id} is not installed, so there is no version to pin it to", "",
                NextCommand.Create("pin", $"{id}@VERSION")).ToException();
        var pin = new Pin(id, selector) { Reason = reason, Until = until, Since = session.Now };
        if (installed is not null && !selector.Accepts(installed.Version, installed.Line))
            session.Note(
                Advice.Combine(
                    $"{id} {installed.Version} is not what it is pinned to; {Into(pin, installed, machine, offers)}"));
        station.Records.SetPin(pin);
        return PinsResult.Read(station.Apps.Read(), offers) with
        {
            Changed = pin,
            WasThere = machine.Pins.Find(id) is not null,
        };
    }

    /// <summary>How to bring an app to the versions that it is pinned to.</summary>
    private static Advice Into(Pin pin, InstalledApp app, MachineState machine, IOffers offers)
    {
        var pinned = machine.With(new PinList(
            [.. machine.Pins.All.Where(other => other.App != pin.App), pin], machine.Pins.Today));
        return DueEntry.Compare(app, offers, pinned).State == DueState.Due
            ? Advice.Combine($"{NextCommand.Create("upgrade", pin.App.Text)} changes it")
            : Advice.Combine(
                $"{NextCommand.Create("install", $"{pin.App}@{pin.Selector}")} changes it, and it follows @{pin.Selector} then");
    }

    /// <summary>Lifts a pin.</summary>
    /// <param name="name">The app.</param>
    /// <exception cref="ProblemException">There is none.</exception>
    public PinsResult Lift(string name)
    {
        using var station = new RootOpener(session).ToChangeAtOnce();
        var pins = station.Records.Pins();
        var id = AppId.TryParse(name, out var exact) && pins.Any(pin => pin.App == exact)
            ? exact
            : station.Apps.Read().Named(name) is [var only] ? only.Id : null;
        if (pins.FirstOrDefault(pin => pin.App == id) is not { } lifted)
            throw new Problem(
                ProblemCode.NothingMatched, $"\"{name}\" is not pinned",
                pins.Count == 0 ? "no app is" : $"these are: {string.Join(", ", pins.Select(pin => pin.App))}").ToException();
        station.Records.LiftPin(lifted.App);
        return PinsResult.Read(station.Apps.Read(), station.Catalogues.Offers()) with { Changed = lifted, IsLifted = true };
    }

    /// <summary>Lists all pins.</summary>
    public PinsResult List()
    {
        using var station = new RootOpener(session).ToRead();
        return PinsResult.Read(station.Apps.Read(), station.Catalogues.Offers());
    }

    private static (AppId Id, Core.Machine.InstalledApp? Installed) Meant(
        AppReference reference, MachineState machine, IOffers offers)
    {
        if (machine.Named(reference.Name) is [var only]) return (only.Id, only);
        return (NameResolver.Offered(reference with { Selector = null }, offers)[0].Card.Id, null);
    }
}
