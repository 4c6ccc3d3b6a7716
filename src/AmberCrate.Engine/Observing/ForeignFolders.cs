using System.Text.RegularExpressions;
using AmberCrate.Core.Machine;

namespace AmberCrate.Engine.Observing;

/// <summary>AppImages and folders where people put software by hand: below <c>/opt</c>, and in the folder for
/// applications.</summary>
/// <param name="folders">The folders to look in.</param>
/// <param name="isOurs">Says whether a path is this program's.</param>
public sealed partial class ForeignFolders(IReadOnlyList<string> folders, Func<string, bool> isOurs) : ISystemObserver
{
    private const int LongestVersion = 100;

    /// <inheritdoc/>
    public IEnumerable<ObservedApp> Observe(Action<string> say, CancellationToken cancel)
    {
        foreach (var folder in folders.Where(Directory.Exists))
        {
            foreach (var path in Entries(folder, say).Where(path => !isOurs(path)))
            {
                cancel.ThrowIfCancellationRequested();
                var name = Path.GetFileName(path);
                if (name.StartsWith('.')) continue;
                if (Directory.Exists(path)) yield return OfFolder(path, name);
                else if (name.EndsWith(".appimage", StringComparison.OrdinalIgnoreCase)) yield return OfAppImage(path, name);
            }
        }
    }

    private static IEnumerable<string> Entries(string folder, Action<string> say)
    {
        try
        {
            return [.. Directory.EnumerateFileSystemEntries(folder).Order(StringComparer.Ordinal)];
        }
        catch (Exception fault) when (fault is IOException or UnauthorizedAccessException)
        {
            say($"{folder} cannot be looked into: {fault.Message}");
            return [];
        }
    }

    private static ObservedApp OfAppImage(string path, string file)
    {
        var name = file[..^".appimage".Length];
        var version = VersionInName().Match(name);
        return new ObservedApp(ObservedKind.AppImage, version.Success ? name[..version.Index] : name)
        {
            VersionText = version.Success ? version.Groups["version"].Value : null, Places = [path],
            Size = new FileInfo(path).Length, Removal = $"delete {path}",
        };
    }

    private static ObservedApp OfFolder(string path, string name)
    {
        var version = VersionInName().Match(name);
        return new ObservedApp(ObservedKind.Folder, version.Success ? name[..version.Index] : name)
        {
            VersionText = version.Success ? version.Groups["version"].Value : VersionFile(path), Places = [path],
            Removal = $"delete {path}, unless it holds an uninstaller",
        };
    }

    private static string? VersionFile(string folder)
    {
        foreach (var name in new[] { "VERSION", "version", "version.txt" })
        {
            try
            {
                var path = Path.Combine(folder, name);
                if (!File.Exists(path) || SystemCalls.Posix.TypeOf(path) != SystemCalls.Posix.FileType.Regular
                    || new FileInfo(path).Length > LongestVersion) continue;
                return File.ReadAllText(path).Trim() is { Length: > 0 } text && !text.Any(char.IsControl) ? text : null;
            }
            catch (Exception fault) when (fault is IOException or UnauthorizedAccessException)
            {
                // It tells no version, then.
            }
        }

        return null;
    }

    [GeneratedRegex(@"[-_ ]v?(?<version>[0-9]+(\.[0-9A-Za-z]+)*)([-_ .](x86_64|amd64|aarch64|arm64|i386|x64|linux)[-_.\w]*)?$",
        RegexOptions.ExplicitCapture | RegexOptions.IgnoreCase, 1000)]
    private static partial Regex VersionInName();
}
