using AmberCrate.Core.Problems;

namespace AmberCrate.Engine.Fetching;

/// <summary>
/// One file with several addresses: if one fails, the next is tried, in their order. A source that can do no good is
/// not tried again. To be used for one file only, since it remembers how its addresses have fared.
/// </summary>
/// <param name="inner">Opens addresses.</param>
/// <param name="addresses">Where the file lies, the best first, each with the address of the catalogue that names it; the
/// address of a request is one of them and says nothing more.</param>
internal sealed class MirroredSource(IByteSource inner, IEnumerable<(Uri Address, Uri? Catalogue)> addresses) : IByteSource
{
    private readonly List<Source> _sources = [.. addresses.Select(place => new Source(place.Address, place.Catalogue))];
    private int _next;

    /// <inheritdoc/>
    /// <exception cref="SourcesFailedException">Every address has been tried since the last round; the next call begins another
    /// one.</exception>
    public async Task<FetchedContent?> OpenAsync(FetchRequest request, CancellationToken cancel)
    {
        while (_next < _sources.Count)
        {
            var source = _sources[_next];
            if (source.Fault?.IsHopeless == true)
            {
                _next++;
                continue;
            }

            try
            {
                var asked = request with { Address = source.Address, Catalogue = source.Catalogue };
                return (await inner.OpenAsync(asked, cancel))?.Watched(fault => Note(source, fault));
            }
            catch (Exception fault) when (SourceFault.IsOfSource(fault))
            {
                Note(source, fault);
            }
        }

        _next = 0;
        throw new SourcesFailedException(Summary());
    }

    /// <summary>Notes a fault: the next call goes on to the next address.</summary>
    private void Note(Source source, Exception fault)
    {
        source.Fault = SourceFault.FromException(fault, source.Address);
        _next = _sources.IndexOf(source) + 1;
    }

    /// <summary>One fault as it is; where there are several sources, the first one's with what the others said.</summary>
    private SourceFault Summary()
    {
        var faults = _sources.ConvertAll(source => source.Fault!);
        var first = faults.Find(fault => fault.Problem.Code == ProblemCode.NotVerified) ?? faults[0];
        var open = faults.FindAll(fault => !fault.IsHopeless);
        var problem = _sources.Count == 1 ? first.Problem
            : first.Problem with
            {
                Details = [.. _sources.Select(source => $"{SourceFault.Shown(source.Address)}: {source.Fault!.Problem.Why}")],
            };
        return new SourceFault(problem, open.Count == 0, open.Min(fault => fault.RetryAfter))
        {
            Waits = open.Count == 0 ? problem.Why : open[0].Problem.Why,
        };
    }

    /// <summary>An address, and how it has fared.</summary>
    private sealed class Source(Uri address, Uri? catalogue)
    {
        public Uri Address { get; } = address;

        public Uri? Catalogue => catalogue;

        public SourceFault? Fault { get; set; }
    }
}
