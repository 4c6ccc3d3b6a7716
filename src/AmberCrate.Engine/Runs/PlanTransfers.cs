using AmberCrate.Core.Plans;
using AmberCrate.Engine.Fetching;

namespace AmberCrate.Engine.Runs;

/// <summary>Fetches what a plan needs, several artifacts at a time, in the order of the plan.</summary>
/// <param name="downloads">The cache.</param>
/// <param name="atOnce">How many transfers run at a time.</param>
/// <param name="watch">Receives the progress; from any thread.</param>
/// <param name="cancel">Stops; what has arrived stays for another time.</param>
internal sealed class PlanTransfers(
    DownloadCache downloads, int atOnce, Action<RunEvent> watch, CancellationToken cancel) : IDisposable
{
    private readonly SemaphoreSlim _places = new(atOnce);
    private readonly CancellationTokenSource _stop = CancellationTokenSource.CreateLinkedTokenSource(cancel);
    private readonly Dictionary<PlanItem, Task<IReadOnlyList<PresentFile>>> _files = new(ReferenceEqualityComparer.Instance);

    /// <summary>Begins to fetch for an item, when it is its turn.</summary>
    public void Begin(ItemPosition place) => _files.Add(place.Item, FetchAsync(place));

    /// <summary>The files of an item that is being fetched.</summary>
    public Task<IReadOnlyList<PresentFile>> FilesOf(PlanItem item) => _files[item];

    /// <summary>Stops what is still under way, and waits for it.</summary>
    public async Task StopAsync()
    {
        await _stop.CancelAsync();
        foreach (var file in _files.Values) await ((Task)file).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        _places.Dispose();
        _stop.Dispose();
    }

    private async Task<IReadOnlyList<PresentFile>> FetchAsync(ItemPosition place)
    {
        await _places.WaitAsync(_stop.Token);
        try
        {
            watch(new RunEvent.StageBegins(place, RunStage.Fetching));
            var (files, before) = (new List<PresentFile>(), 0L);
            foreach (var wanted in WantedFile.ListFor(place.Item))
            {
                var progress = Watch(place, before);
                files.Add(await Task.Run(() => downloads.HaveAsync(wanted, progress, _stop.Token), _stop.Token));
                before += wanted.Size ?? 0;
            }

            watch(new RunEvent.Fetched(place));
            return files;
        }
        finally
        {
            _places.Release();
        }
    }

    /// <summary>Watches one file of an item, whose earlier files have some bytes already.</summary>
    private TransferWatch Watch(ItemPosition place, long before) => new(
        (arrived, expected) => watch(new RunEvent.BytesArrive(
            place, before + arrived, place.Item.Delivery!.Files.Count == 1 ? expected : place.Item.Delivery.DownloadSize)),
        (wait, why) => watch(new RunEvent.Waits(place, wait, why)));
}
