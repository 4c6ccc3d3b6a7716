namespace AmberCrate.Core.Drafting;

/// <summary>Files that make one app together: its own file first, then its data, libraries and other parts.</summary>
public sealed class PackageGroup
{
    private PackageContents? _together;

    /// <summary>Makes a group.</summary>
    /// <param name="files">The files, at least one, in the order of unpacking.</param>
    public PackageGroup(IReadOnlyList<DraftedFile> files)
    {
        if (files.Count == 0) throw new ArgumentException("expected at least one file", nameof(files));
        Files = files;
    }

    /// <summary>The files, in the order of unpacking; the first is the app's own.</summary>
    public IReadOnlyList<DraftedFile> Files { get; }

    /// <summary>What they hold together, with the name, digest and size of the first.</summary>
    public PackageContents Together => _together ??= Files.Count == 1 ? Files[0].Contents : Files[0].Contents with
    {
        UnpackedSize = Files.All(file => file.Contents.UnpackedSize is not null)
            ? Files.Sum(file => file.Contents.UnpackedSize)
            : null,
        Files = [.. Files.SelectMany(file => file.Contents.Files)],
        DesktopEntries = [.. Files.SelectMany(file => file.Contents.DesktopEntries)],
        Metainfo = [.. Files.SelectMany(file => file.Contents.Metainfo)],
        Elves = [.. Files.SelectMany(file => file.Contents.Elves)],
        Scripts = [.. Files.SelectMany(file => file.Contents.Scripts)],
        Newest = Files.Max(file => file.Contents.Newest),
        Platform = Files.Select(file => file.Contents.Platform).FirstOrDefault(platform => platform is not null),
        Unread = [.. Files.SelectMany(file => file.Contents.Unread)],
        Copyright = Files.Select(file => file.Contents.Copyright).FirstOrDefault(text => text is not null),
        Control = DebianDependency.Join([.. Files.Select(file => file.Contents.Control)]),
    };

    /// <summary>A path that two of the files hold, so that they cannot be unpacked into one folder; null for none.</summary>
    public string? SharedPath => Files.SelectMany(file => file.Contents.Files.Select(one => one.Path))
        .GroupBy(path => path, StringComparer.Ordinal).FirstOrDefault(same => same.Skip(1).Any())?.Key;
}
