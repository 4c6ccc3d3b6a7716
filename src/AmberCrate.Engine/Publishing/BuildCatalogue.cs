using AmberCrate.Core.Problems;
using AmberCrate.Engine.BundleFiles;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Trust;

namespace AmberCrate.Engine.Publishing;

/// <summary>Checks a folder of cards and publishes it.</summary>
/// <param name="host">What is around the program.</param>
public sealed class BuildCatalogue(HostEnvironment host)
{
    /// <summary>Checks the cards, and publishes them if there is no fault.</summary>
    /// <param name="request">What is to be published, and how.</param>
    /// <param name="cancel">Cancels the operation.</param>
    /// <exception cref="ProblemException">A card has faults, or the folder cannot be written.</exception>
    public async Task<PublishResult> RunAsync(BuildRequest request, CancellationToken cancel)
    {
        if (!Directory.Exists(request.Cards))
            throw new Problem(ProblemCode.NothingMatched, $"there is no folder {request.Cards}").ToException();
        var machines = request.Exports is { } folder ? MachinesIn(host.FullPath(folder), request.Progress, cancel) : null;
        await RefuseFaultyAsync(request, cancel);
        var done = await CataloguePublisher.PublishAsync(request, machines, host.Clock.GetUtcNow(), cancel);
        return new PublishResult(request.Target, host.FullPath(request.Target), done.Document)
        {
            Pruned = done.Pruned, Pages = done.Pages, Root = SignedRepository.RootOf(request.Target),
            Waiting = done.Signing?.Waiting ?? [], DoPagesWait = done.DoPagesWait, WithoutOthers = done.WithoutOthers,
        };
    }

    private async Task RefuseFaultyAsync(BuildRequest request, CancellationToken cancel)
    {
        var faults = await CheckCards.FaultsAsync(host, request, cancel);
        if (faults.Count == 0) return;
        var files = faults.Select(fault => fault.File).Distinct().Count();
        var count = FormatFault.Words(faults.Count);
        throw new Problem(
            ProblemCode.NotVerified, files == 1 ? $"{faults[0].File} has {count}" : $"{files} files have {count}",
            "nothing has been published", "correct them; docs/formats/app-card.md describes every key")
        {
            Details = [.. faults.Select(fault =>
                (Advice)new FormatFault(fault.File, fault.Line, fault.Key, fault.Message).ToString())],
        }.ToException();
    }

    /// <summary>What each machine has, by its export. A number is counted from all of them or not at all.</summary>
    private static List<IReadOnlyCollection<string>> MachinesIn(
        string folder, WorkProgress progress, CancellationToken cancel)
    {
        var exports = new ExportFolder(folder).Read(progress, cancel);
        var faults = exports.Where(export => export.Bundle is null).ToList();
        if (faults.Count > 0)
            throw new Problem(
                ProblemCode.NotVerified, $"{faults.Count} of {exports.Count} exports in {folder} cannot be read",
                "the popularity of apps would be counted wrongly; nothing has been published",
                "correct or remove these files, and run it again")
            {
                Details = [.. faults.Select(export => (Advice)$"{export.Name}: {export.Fault}")],
            }.ToException();
        return
        [
            .. exports.Select(
                export => (IReadOnlyCollection<string>)[.. export.Bundle!.Apps.Select(app => app.Reference.Name)]),
        ];
    }
}
