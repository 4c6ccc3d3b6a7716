namespace AmberCrate.Core.Catalogues;

/// <summary>
/// How a change to a published catalogue is laid over what exists. The parts of the first layer hold every app as it was
/// when the catalogue was last published in full; each later layer holds only apps that have changed since, and overrides the
/// ones below. So whoever has the layers below fetches what has changed and no more. A new layer takes in those before it
/// that are smaller than twice its size, as a log-structured merge tree does (O'Neil and others, 1996): there are never more
/// than the logarithm of the number of changes, and each change is fetched again that often at most. Once an eighth
/// of the catalogue would be in later layers, it is published in full.
/// </summary>
/// <param name="KeptLayers">How many of the earlier layers stay as they are, the first one included.</param>
/// <param name="Ids">The apps that the new layer tells about.</param>
public sealed record LayerPlan(int KeptLayers, IReadOnlySet<string> Ids)
{
    private const int MergeBelow = 2;
    private const int WholeFrom = 8;

    /// <summary>Plans the publication of a change; null where the catalogue is to be published in full.</summary>
    /// <param name="layers">The ids that each layer tells about, the first layer first.</param>
    /// <param name="changed">The ids that are new, changed or gone.</param>
    /// <param name="apps">How many apps the catalogue offers now.</param>
    public static LayerPlan? Create(IReadOnlyList<IReadOnlyCollection<string>> layers, IReadOnlyCollection<string> changed,
        int apps)
    {
        if (layers.Count == 0) return null;
        var ids = changed.ToHashSet();
        var kept = layers.Count;
        while (kept > 1 && layers[kept - 1].Count < ids.Count * MergeBelow) ids.UnionWith(layers[--kept]);
        var above = ids.Count + layers.Take(kept).Skip(1).Sum(layer => layer.Count);
        return above * WholeFrom > apps ? null : new LayerPlan(kept, ids);
    }
}
