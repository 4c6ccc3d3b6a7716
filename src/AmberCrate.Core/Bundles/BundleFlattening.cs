using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Bundles;

/// <summary>
/// Makes one bundle of several layers. A later layer changes and drops what is below it; two layers that do not build on
/// the other must not contradict each other.
/// </summary>
/// <param name="host">The name of the machine.</param>
/// <param name="platform">Its platform.</param>
public sealed class BundleFlattening(string host, Platform platform)
{
    private readonly List<FormatFault> _faults = [];
    private readonly List<FlatEntry> _leftOut = [];
    private readonly List<string> _unmatched = [];
    private readonly Dictionary<BundleLayer, Merged> _merged = new(ReferenceEqualityComparer.Instance);

    /// <summary>Flattens a bundle.</summary>
    /// <param name="top">The bundle with its layers.</param>
    /// <param name="faults">Is given every contradiction.</param>
    /// <returns>The result; null when faults were added.</returns>
    public FlatBundle? Flatten(BundleLayer top, ICollection<FormatFault> faults)
    {
        _faults.Clear();
        _leftOut.Clear();
        _merged.Clear();
        _unmatched.Clear();
        var isForOthers = top.Bundle.When?.Fits(host, platform) == false;
        var merged = Merge(top);
        foreach (var fault in _faults.Distinct()) faults.Add(fault);
        if (_faults.Count > 0) return null;
        var entries = merged.Apps.Values.ToList();
        return new FlatBundle(
            top.Bundle with
            {
                BuildsOn = [],
                Drops = [],
                When = null,
                Catalogues = [.. merged.Catalogues.Values.Select(one => one.Catalogue)],
                Apps = [.. entries.Select(entry => entry.App with { When = null })],
            },
            [.. entries, .. _leftOut.Distinct()])
        {
            IsForOthers = isForOthers, Unmatched = [.. _unmatched.Distinct()],
        };
    }

    private Merged Merge(BundleLayer layer)
    {
        if (_merged.TryGetValue(layer, out var known)) return known;
        var result = new Merged();
        _merged.Add(layer, result);
        if (layer.Bundle.When is { } when && !when.Fits(host, platform))
        {
            _leftOut.AddRange(layer.Bundle.Apps.Select(app =>
                new FlatEntry(app, layer.Name) { LeftOut = $"{layer.Name} is for {when.Words}" }));
            return result;
        }

        foreach (var below in layer.Bases) TakeBase(layer, Merge(below), result);
        foreach (var drop in layer.Bundle.Drops)
        {
            if (result.Apps.TryGetValue(drop.Id, out var dropped) && drop.Takes(dropped.App.Reference))
            {
                result.Apps.Remove(drop.Id);
                _leftOut.Add(dropped with { LeftOut = $"dropped by {layer.Name}:{drop.Line}" });
            }
            else if (!layer.Bases.Any(below => Lists(below, drop)))
            {
                _unmatched.Add($"{layer.Name}:{drop.Line} drops {drop.Name}, which no bundle below it lists");
            }
        }

        foreach (var catalogue in layer.Bundle.Catalogues) result.Catalogues[catalogue.Name] = (catalogue, layer.Name);
        foreach (var app in layer.Bundle.Apps) TakeOwn(layer, app, result);
        return result;
    }

    /// <summary>Whether a layer or one below it lists what a drop takes out, for this machine or another.</summary>
    private static bool Lists(BundleLayer layer, BundleDrop drop) =>
        layer.Bundle.Apps.Any(app => drop.Takes(app.Reference)) || layer.Bases.Any(below => Lists(below, drop));

    private void TakeOwn(BundleLayer layer, BundleApp app, Merged result)
    {
        var entry = new FlatEntry(app, layer.Name);
        if (app.When is { } when && !when.Fits(host, platform))
        {
            _leftOut.Add(entry with { LeftOut = $"it is for {when.Words}" });
            return;
        }

        if (result.Apps.TryGetValue(app.Reference.Name, out var changed))
            _leftOut.Add(changed with { LeftOut = $"changed by {entry.Place}" });
        result.Apps[app.Reference.Name] = entry;
    }

    private void TakeBase(BundleLayer layer, Merged below, Merged result)
    {
        var decided = layer.Bundle.Apps.Select(app => app.Reference.Name)
            .Concat(layer.Bundle.Drops.Select(drop => drop.Id)).ToHashSet(StringComparer.Ordinal);
        foreach (var (name, entry) in below.Apps)
        {
            if (result.Apps.TryAdd(name, entry)) continue;
            var other = result.Apps[name];
            if (decided.Contains(name) || SaysTheSame(other.App, entry.App)) continue;
            Contradicts(other.From, other.App.Line, "apps", $"{WordsOf(other.App)}, but {entry.Place} has {WordsOf(entry.App)}; "
                + $"list or drop {name} in {layer.Name} to decide");
        }

        foreach (var (name, (catalogue, from)) in below.Catalogues)
        {
            if (result.Catalogues.TryAdd(name, (catalogue, from))) continue;
            var (other, otherFrom) = result.Catalogues[name];
            if (other.Location == catalogue.Location || layer.Bundle.Catalogues.Any(own => own.Name == name)) continue;
            Contradicts(
                otherFrom, 1, "catalogues", $"{name} is at {other.Location}, but {from} has it at {catalogue.Location}; "
                    + $"list it in {layer.Name} to decide");
        }
    }

    private void Contradicts(string file, int line, string key, string message) =>
        _faults.Add(new FormatFault(file, line, key, message));

    private static bool SaysTheSame(BundleApp one, BundleApp other) =>
        (one.Reference, one.Version, one.Platform, one.Pin, one.Sha256, one.IsDependency)
            == (other.Reference, other.Version, other.Platform, other.Pin, other.Sha256, other.IsDependency)
        && one.InstallerArguments.SequenceEqual(other.InstallerArguments);

    private static string WordsOf(BundleApp app) => $"{app.Reference}{(app.Version is { } version ? $" {version}" : "")}";

    private sealed class Merged
    {
        public OrderedDictionary<string, FlatEntry> Apps { get; } = new(StringComparer.Ordinal);

        public OrderedDictionary<CatalogueName, (BundleCatalogue Catalogue, string From)> Catalogues { get; } = [];
    }
}
