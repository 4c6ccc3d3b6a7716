namespace AmberCrate.Engine.Tests;

/// <summary>A folder that goes when the test ends.</summary>
public sealed class TemporaryFolder : IDisposable
{
    public string Path { get; } = Directory.CreateTempSubdirectory("acrate-test-").FullName;

    public string this[params string[] parts] => System.IO.Path.Combine([Path, .. parts]);

    /// <summary>Everything in it, by relative path, links with their targets.</summary>
    public IReadOnlyList<string> Tree(string below = "") => !Directory.Exists(this[below])
        ? []
        : [.. Directory.EnumerateFileSystemEntries(this[below], "*", SearchOption.AllDirectories)
        .Select(path => System.IO.Path.GetRelativePath(this[below], path)
            + (new FileInfo(path).LinkTarget is { } target ? $" -> {target}" : ""))
        .Order(StringComparer.Ordinal)];

    public void Dispose() => AmberCrate.Engine.Host.DeepFolder.Delete(Path);
}
