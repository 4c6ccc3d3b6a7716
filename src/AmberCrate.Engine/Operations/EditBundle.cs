using AmberCrate.Core.Bundles;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;
using AmberCrate.Engine.Bundles;

namespace AmberCrate.Engine.Operations;

/// <summary>Puts apps into a bundle and takes them out; comments and order stay.</summary>
/// <param name="session">The session.</param>
public sealed class EditBundle(Session session)
{
    /// <summary>Puts apps into a bundle, which is made where it is not there.</summary>
    /// <param name="file">The bundle.</param>
    /// <param name="references">The apps, which a catalogue must offer.</param>
    /// <param name="cancel">Stops.</param>
    /// <exception cref="ProblemException">A reference fits nothing or several apps, or the file cannot be written.</exception>
    public async Task<BundleEdit> IncludeAsync(
        string file, IReadOnlyList<AppReference> references, CancellationToken cancel)
    {
        using var station = await new Opening(session).ToReadFreshAsync(cancel);
        var offers = station.Offers();
        List<BundleApp> apps = [.. new Planner(new(Engine.Host.HostPlatform.Current, []), offers).Named(references)
            .Select(reference => new BundleApp(reference, null)).DistinctBy(app => app.Reference.Name)];
        var used = apps.Select(app => app.Reference.Catalogue).ToHashSet();
        var path = session.Host.FullPath(file);
        var isNew = !File.Exists(path);
        var text = isNew ? BundleWriter.Write(new Bundle { Title = TitleOf(file) }) : "";
        var before = isNew ? new Bundle() : BundleFile.Read(path, out text);
        text = BundleEditing.Include(
            text, apps, [.. station.BundleCatalogues().Where(catalogue => used.Contains(catalogue.Name))]);
        if (isNew) BundleFile.Create(file, text);
        else BundleFile.Replace(path, text);
        var known = before.Apps.ToDictionary(app => app.Reference.Name, app => app.Reference, StringComparer.Ordinal);
        return new BundleEdit(path, BundleFile.Read(path))
        {
            Added = [.. apps.Where(app => !known.ContainsKey(app.Reference.Name))],
            Changed = [.. apps.Where(app => known.TryGetValue(app.Reference.Name, out var was) && was != app.Reference)],
            Unchanged = [.. apps.Where(app => known.TryGetValue(app.Reference.Name, out var was) && was == app.Reference)],
        };
    }

    /// <summary>Takes apps out of a bundle. What only a layer below lists is dropped by it from now on.</summary>
    /// <param name="file">The bundle.</param>
    /// <param name="names">The apps, as its entries name them.</param>
    /// <param name="cancel">Stops.</param>
    /// <exception cref="ProblemException">The bundle does not list one of them, or the file cannot be written.</exception>
    public async Task<BundleEdit> DropAsync(string file, IReadOnlyList<string> names, CancellationToken cancel)
    {
        var path = session.Host.FullPath(file);
        var before = BundleFile.Read(path, out var text);
        var own = before.Apps.Select(app => app.Reference.Name).ToHashSet(StringComparer.Ordinal);
        var below = new HashSet<string>(StringComparer.Ordinal);
        if (before.BuildsOn.Count > 0)
        {
            using var station = new Opening(session).ToRead();
            var top = await new BundleLoading(new BundleOpening(session, () => station), session.Host.FullPath("."))
                .LoadAsync(path, cancel);
            Collect(top.Bases, below);
        }

        if (names.FirstOrDefault(name => !own.Contains(name) && !below.Contains(name)) is { } unknown)
            throw new Problem(
                ProblemCode.NothingMatched, $"{file} does not list {unknown}", "nothing has been changed",
                NearestOf(unknown, own.Concat(below))).ToException();
        List<string> dropped = [.. names.Where(own.Contains)], droppedBelow = [.. names.Where(below.Contains)];
        try
        {
            BundleFile.Replace(path, BundleEditing.Drop(text, dropped, droppedBelow));
        }
        catch (MalformedException fault)
        {
            throw new Problem(
                ProblemCode.Refused, $"{file} cannot be edited", $"{fault.Message}; nothing has been changed",
                "take the entry out by hand").ToException(fault);
        }

        return new BundleEdit(path, BundleFile.Read(path)) { Dropped = dropped, DroppedBelow = droppedBelow };
    }

    private static void Collect(IReadOnlyList<BundleLayer> layers, HashSet<string> names)
    {
        foreach (var layer in layers)
        {
            Collect(layer.Bases, names);
            names.ExceptWith(layer.Bundle.Drops.Select(drop => drop.Name));
            names.UnionWith(layer.Bundle.Apps.Select(app => app.Reference.Name));
        }
    }

    private static Advice NearestOf(string name, IEnumerable<string> all) =>
        WordDistance.Nearest(name, all) is { } meant ? $"did you mean {meant}?" : Advice.None;

    private static string TitleOf(string file) =>
        Path.GetFileName(file) is var name && name.EndsWith(Bundle.FileEnding, StringComparison.Ordinal)
            ? name[..^Bundle.FileEnding.Length]
            : Path.GetFileNameWithoutExtension(name);
}
