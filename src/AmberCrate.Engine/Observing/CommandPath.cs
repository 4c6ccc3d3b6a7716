using AmberCrate.Core.Values;
using AmberCrate.Engine.Layout;

namespace AmberCrate.Engine.Observing;

/// <summary>The commands that a shell finds on this machine beside those that are placed here.</summary>
/// <param name="layout">Where commands are placed, and for whom.</param>
/// <param name="systemRoot">The folder that counts as <c>/</c>.</param>
/// <param name="searchPath">The value of PATH, for commands of this person.</param>
public sealed class CommandPath(MachineLayout layout, string systemRoot, string searchPath)
{
    /// <summary>Where the commands of a system lie. What PATH all its users have is not known.</summary>
    private static readonly string[] SystemFolders = ["usr/sbin", "usr/bin", "sbin", "bin"];

    private readonly List<string> _folders =
        [.. searchPath.Split(':').Where(Path.IsPathFullyQualified).Select(Path.TrimEndingDirectorySeparator)];

    /// <summary>Whether the folder where commands are placed is on PATH.</summary>
    public bool HasOwn => _folders.Contains(layout.BinFolder);

    /// <summary>
    /// The program that is found under a name now and would no longer be once a command of that name is placed; null where there
    /// is none.
    /// </summary>
    public string? HiddenBy(string name) =>
        Behind().Select(folder => Path.Combine(folder, name)).FirstOrDefault(File.Exists);

    /// <summary>
    /// The program that a shell finds under a name before a command of that name that is placed here; null where there is none.
    /// </summary>
    public string? FoundBefore(string name)
    {
        if (layout.Scope == InstallScope.AllUsers) return null;
        return _folders.Take(Math.Max(0, _folders.IndexOf(layout.BinFolder))).Select(folder => Path.Combine(folder, name))
            .FirstOrDefault(File.Exists);
    }

    /// <summary>
    /// The folders behind the one for commands. Where that is not on PATH yet it will come first, as the program advises.
    /// </summary>
    private IEnumerable<string> Behind()
    {
        if (layout.Scope == InstallScope.AllUsers) return SystemFolders.Select(folder => Path.Combine(systemRoot, folder));
        return _folders.Skip(_folders.IndexOf(layout.BinFolder) + 1);
    }
}
