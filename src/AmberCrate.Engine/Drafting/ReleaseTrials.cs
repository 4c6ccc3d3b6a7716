using AmberCrate.Core.Cards;
using AmberCrate.Core.Drafting;
using AmberCrate.Core.Placements;
using AmberCrate.Core.Trials;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Installers;
using AmberCrate.Engine.Observing;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Drafting;

/// <summary>
/// Starts every menu entry and command of the newest release of a card that runs here, under a display of its own.
/// </summary>
/// <param name="shelf">Unpacks the releases.</param>
/// <param name="system">The root of the system that they see.</param>
/// <param name="time">For how long each start is watched.</param>
internal sealed class ReleaseTrials(TemporaryShelf shelf, string system, TimeSpan time)
{
    private readonly Confinement _confinement = new();
    private readonly SystemCheck _system = new(system, "", new SystemPackages(system));

    /// <summary>Starts them.</summary>
    /// <param name="card">The card.</param>
    /// <param name="cancel">Ends it at once.</param>
    public async Task<CardTrial> RunAsync(AppCard card, CancellationToken cancel)
    {
        var release = card.Releases.FirstOrDefault(one => one.DeliveryFor(HostPlatform.Current) is not null);
        if (release is null) return new CardTrial(card.Id, null, [NotTried("no release of it runs on this machine")]);
        var place = card.PlacementOf(release);
        if (place.Commands.Count == 0) return new CardTrial(card.Id, release.Version, [NotTried("it has no commands")]);
        using var work = WorkFolder.Make("trial");
        var app = TemporaryShelf.MakeEntry(work.Path, card.Id);
        var unmapped = place with { Mapped = [] };
        if (await ObstacleAsync(card, release, unmapped, (work.Path, app), cancel) is { } why)
            return new CardTrial(card.Id, release.Version, [NotTried(why)]);

        // What is laid over the system is laid there by whoever confines the program: it cannot do so itself.
        var trial = new WindowTrial(_confinement, app, place.Mapped, system);
        var results = new List<StartTrialResult>();
        foreach (var (words, command, arguments, opensWindow) in Starts(place, app))
        {
            try
            {
                results.Add(StartTrialResult.Judge(
                    words, opensWindow, await trial.RunAsync(unmapped.StartOf(command), arguments, time, cancel)));
            }
            catch (IOException fault)
            {
                results.Add(StartTrialResult.NotTried(words, fault.Message));
            }
        }

        return new CardTrial(card.Id, release.Version, results);
    }

    private static StartTrialResult NotTried(string why) => StartTrialResult.NotTried("nothing", why);

    /// <summary>Why a release cannot be started here; null where its files are in the folder now.</summary>
    private async Task<string?> ObstacleAsync(
        AppCard card, Release release, Placement place, (string Work, string App) folders, CancellationToken cancel)
    {
        if (WindowTrial.Obstacle(_confinement) is { } obstacle) return obstacle;
        var delivery = release.DeliveryFor(HostPlatform.Current)!;
        if (delivery.IsInstaller) return "it is put on by its vendor's installer";
        var lacks = _system.FindLacks(card.RequirementsOf(release) ?? [], delivery.Platform);
        if (lacks.Count > 0) return $"the system lacks {string.Join(", ", lacks.Select(lack => lack.Requirement.Words))}";
        return await shelf.UnpackAsync(delivery, place, folders.App, cancel)
            ?? await shelf.UnpackLendersAsync(place.Borrows, folders.Work, cancel);
    }

    /// <summary>The menu entries, then the commands that none of them starts.</summary>
    private static IEnumerable<(string Words, PlacedCommand Command, IReadOnlyList<string> Arguments, bool OpensWindow)> Starts(
        Placement place, string app)
    {
        var started = new HashSet<FileName>();
        foreach (var entry in place.DesktopEntries)
        {
            if (place.Commands.FirstOrDefault(command => command.Name == entry.Command) is not { } command) continue;
            started.Add(command.Name);
            var shipped = entry.Path is { } path && File.Exists(Path.Combine(app, path.Text))
                && Posix.TypeOf(Path.Combine(app, path.Text)) == Posix.FileType.Regular
                ? ShippedEntry.Read(entry.Name.Text, File.ReadAllText(Path.Combine(app, path.Text)))
                : null;
            yield return ($"menu entry {entry.Name}", command, shipped?.Arguments ?? Plain(entry.Arguments),
                shipped?.Value("Terminal") != "true");
        }

        foreach (var command in place.Commands.Where(command => !started.Contains(command.Name)))
            yield return ($"command {command.Name}", command, [], false);
    }

    /// <summary>Arguments without the codes that the desktop fills in.</summary>
    private static IReadOnlyList<string> Plain(string arguments) =>
        [.. arguments.Split(' ', StringSplitOptions.RemoveEmptyEntries).Where(word => !word.StartsWith('%'))];
}
