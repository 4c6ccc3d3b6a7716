using AmberCrate.Engine.Decoding;
using AmberCrate.Engine.Fetching;

namespace AmberCrate.Engine.KitFiles;

/// <summary>
/// Delivers one blob of a kit, whatever the address. Where it turns out to be another file, asking again does not
/// help.
/// </summary>
/// <param name="kit">The kit.</param>
/// <param name="blob">The blob.</param>
internal sealed class KitSource(KitFile kit, KitBlob blob) : IByteSource
{
    private Exception? _fault;

    /// <inheritdoc/>
    public Task<FetchedContent?> OpenAsync(FetchRequest request, CancellationToken cancel)
    {
        cancel.ThrowIfCancellationRequested();
        if (_fault is not null) return Task.FromException<FetchedContent?>(_fault);
        var from = Math.Min(request.From, blob.Size);
        var whole = kit.OpenBlob(blob);
        whole.Position += from;
        return Task.FromResult<FetchedContent?>(new FetchedContent(new PartStream(whole, blob.Size - from), whole)
        {
            From = from, Length = blob.Size - from,
        }.Watched(fault => _fault = fault));
    }
}
