using AmberCrate.Core.Trust;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Catalogues;

/// <summary>
/// How a catalogue leaves apps to another maintainer. Their part of it is in a folder of its own, in the same form; which ids
/// they may sign is among the patterns of the delegation, as targets without files.
/// </summary>
public static class DelegatedApps
{
    /// <summary>The entry document within the folder.</summary>
    public const string Document = CatalogueDocument.FileName;

    private const string Folder = "delegated", Apps = "apps";

    /// <summary>The folder of a maintainer's part.</summary>
    public static string FolderOf(string role) => $"{Folder}/{role}";

    /// <summary>The target that means an id, or for a pattern of ids.</summary>
    public static string TargetOf(string app) => $"{Apps}/{app}";

    /// <summary>Whether a maintainer may sign an app.</summary>
    public static bool IsLeftTo(Delegation delegation, AppId app) => delegation.Fits(TargetOf(app.Text));

    /// <summary>The patterns of the ids that a maintainer may sign.</summary>
    public static IEnumerable<string> PatternsOf(Delegation delegation) =>
        delegation.Paths.Where(path => path.StartsWith($"{Apps}/", StringComparison.Ordinal))
            .Select(path => path[(Apps.Length + 1)..]);
}
