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
    private readonly Dictionary<PlanItem, Task<PresentFile>> _files = new(ReferenceEqualityComparer.Instance);

    /// <summary>Begins to fetch for an item, when it is its turn.</summary>
    public void Begin(ItemPosition place) => _files.Add(place.Item, FetchAsync(place));

    /// <summary>The artifact of an item that is being fetched.</summary>
    public Task<PresentFile> FileOf(PlanItem item) => _files[item];

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

    private async Task<PresentFile> FetchAsync(ItemPosition place)
    {
        await _places.WaitAsync(_stop.Token);
        try
        {
            watch(new RunEvent.StageBegins(place, RunStage.Fetching));
            var file =
                await Task.Run(() => downloads.HaveAsync(WantedFile.FromItem(place.Item), Watch(place), _stop.Token),
                    _stop.Token);
            watch(new RunEvent.Fetched(place));
            return file;
        }
        finally
        {
            _places.Release();
        }
    }

    private TransferWatch Watch(ItemPosition place) => new(
        (arrived, expected) => watch(new RunEvent.BytesArrive(place, arrived, expected)),
        (wait, why) => watch(new RunEvent.Waits(place, wait, why)));
}
