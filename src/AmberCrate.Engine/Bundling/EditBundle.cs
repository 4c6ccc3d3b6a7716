using AmberCrate.Core.Bundles;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;
using AmberCrate.Engine.BundleFiles;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Bundling;

/// <summary>Puts apps into a bundle and takes them out; comments and order stay.</summary>
/// <param name="session">The session.</param>
public sealed class EditBundle(Session session)
{
    /// <summary>Puts apps into a bundle, which is made where it is not there.</summary>
    /// <param name="file">The bundle.</param>
    /// <param name="references">The apps, which a catalogue must offer.</param>
    /// <param name="cancel">Cancels the operation.</param>
    /// <exception cref="ProblemException">A reference fits nothing or several apps, or the file cannot be written.</exception>
    public async Task<BundleEdit> IncludeAsync(
        string file, IReadOnlyList<AppReference> references, CancellationToken cancel)
    {
        using var station = await new RootOpener(session).ToReadFreshAsync(cancel);
        var offers = station.Catalogues.Offers();
        List<BundleApp> apps = [.. new Planner(new(Engine.Host.HostPlatform.Current, []), offers).Named(references)
            .Select(reference => new BundleApp(reference, null)).DistinctBy(app => app.Reference.Name)];
        var used = apps.Select(app => app.Reference.Catalogue).ToHashSet();
        var path = session.Host.FullPath(file);
        var isNew = !File.Exists(path);
        var text = isNew ? BundleWriter.Write(new Bundle { Title = TitleOf(file) }) : "";
        var before = isNew ? new Bundle() : BundleFile.Read(path, out text);
        text = BundleEditing.Include(
            text, apps, [.. station.Catalogues.ForBundle().Where(catalogue => used.Contains(catalogue.Name))]);
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
    /// <param name="cancel">Cancels the operation.</param>
    /// <exception cref="ProblemException">The bundle does not list one of them, or the file cannot be written.</exception>
    public async Task<BundleEdit> DropAsync(string file, IReadOnlyList<string> names, CancellationToken cancel)
    {
        var path = session.Host.FullPath(file);
        var before = BundleFile.Read(path, out var text);
        var own = before.Apps.Select(app => app.Reference).ToDictionary(app => app.Name, StringComparer.Ordinal);
        var below = new Dictionary<string, AppReference>(StringComparer.Ordinal);
        if (before.BuildsOn.Count > 0)
        {
            using var station = new RootOpener(session).ToRead();
            var opening = new BundleOpening(session, station.Remote, station.Catalogues);
            var top = await new BundleLoading(opening, session.Host.FullPath(".")).LoadAsync(path, cancel);
            Collect(top.Bases, below);
        }

        if (names.FirstOrDefault(name => !Lists(own, name) && !Lists(below, name)) is { } unknown)
            throw new Problem(
                ProblemCode.NothingMatched, $"{file} does not list {unknown}", "nothing has been changed",
                NearestOf(unknown, own.Keys.Concat(below.Keys))).ToException();
        List<string> dropped = [.. names.Where(name => Lists(own, name)).Select(IdIn)];
        List<string> droppedBelow = [.. names.Where(name => Lists(below, name)).Select(IdIn)];
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

    private static string IdIn(string name) => new BundleDrop(name, 0).Id;

    private static bool Lists(Dictionary<string, AppReference> entries, string name) =>
        new BundleDrop(name, 0) is var drop && entries.TryGetValue(drop.Id, out var entry) && drop.Takes(entry);

    private static void Collect(IReadOnlyList<BundleLayer> layers, Dictionary<string, AppReference> names)
    {
        foreach (var layer in layers)
        {
            Collect(layer.Bases, names);
            foreach (var drop in layer.Bundle.Drops)
                if (names.TryGetValue(drop.Id, out var entry) && drop.Takes(entry)) names.Remove(drop.Id);
            foreach (var app in layer.Bundle.Apps) names[app.Reference.Name] = app.Reference;
        }
    }

    private static Advice NearestOf(string name, IEnumerable<string> all) =>
        WordDistance.Nearest(name, all) is { } meant ? $"did you mean {meant}?" : Advice.None;

    private static string TitleOf(string file) =>
        Path.GetFileName(file) is var name && name.EndsWith(Bundle.FileEnding, StringComparison.Ordinal)
            ? name[..^Bundle.FileEnding.Length]
            : Path.GetFileNameWithoutExtension(name);
}
