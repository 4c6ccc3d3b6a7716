using System.Text;
using AmberCrate.Core.Machine;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Observing;

/// <summary>
/// The entries of the desktop's menu, after the Desktop Entry and Desktop Menu specifications. What is hidden, or no application,
/// is left out.
/// </summary>
/// <param name="folders">The folders for data to look in, the most important first.</param>
/// <param name="isOurs">Says whether a file was placed by this program.</param>
public sealed class DesktopFiles(IReadOnlyList<string> folders, Func<string, bool> isOurs) : ISystemObserver
{
    /// <summary>The key of an entry that has its app's version; <c>Version</c> is that of the specification.</summary>
    public const string VersionKey = "X-AppVersion";

    private const int MostBytes = 1 << 18;
    private static readonly EnumerationOptions All = new() { RecurseSubdirectories = true, MaxRecursionDepth = 3 };

    /// <inheritdoc/>
    public IEnumerable<ObservedApp> Observe(Action<string> say, CancellationToken cancel)
    {
        var seen = new HashSet<string>(StringComparer.Ordinal);
        foreach (var applications in folders.Select(folder => Path.Combine(folder, "applications")).Where(Directory.Exists))
        {
            foreach (var file in Files(applications))
            {
                cancel.ThrowIfCancellationRequested();

                // The id of an entry in a folder below has hyphens for slashes. The first one of an id counts.
                var id = Path.GetRelativePath(applications, file)[..^".desktop".Length].Replace('/', '-');
                if (!seen.Add(id) || isOurs(file)) continue;
                if (Read(file, id, say) is { } app) yield return app;
            }
        }
    }

    /// <summary>The keys of an entry's main group, without translations; the first of a name counts.</summary>
    /// <param name="file">The entry. It may be someone else's: nothing but a file is read, and not without end.</param>
    /// <exception cref="IOException">It cannot be read, or is not UTF-8.</exception>
    internal static IReadOnlyDictionary<string, string> ValuesIn(string file)
    {
        try
        {
            return Values(new UTF8Encoding(false, throwOnInvalidBytes: true).GetString(Bytes(file)));
        }
        catch (DecoderFallbackException fault)
        {
            throw new IOException("it is not UTF-8", fault);
        }
    }

    private static IEnumerable<string> Files(string folder)
    {
        try
        {
            return [.. Directory.EnumerateFiles(folder, "*.desktop", All).Order(StringComparer.Ordinal)];
        }
        catch (Exception fault) when (fault is IOException or UnauthorizedAccessException)
        {
            return [];
        }
    }

    private static ObservedApp? Read(string file, string id, Action<string> say)
    {
        IReadOnlyDictionary<string, string> values;
        try
        {
            values = ValuesIn(file);
        }
        catch (Exception fault) when (fault is IOException or UnauthorizedAccessException)
        {
            say($"{file} is left out: {fault.Message}");
            return null;
        }

        if (values.GetValueOrDefault("Type") != "Application" || values.GetValueOrDefault("NoDisplay") == "true"
            || values.GetValueOrDefault("Hidden") == "true") return null;
        return new ObservedApp(ObservedKind.DesktopEntry, id)
        {
            Title = values.GetValueOrDefault("Name"), VersionText = values.GetValueOrDefault(VersionKey), DesktopIds = [id],
            Program = ProgramOf(values.GetValueOrDefault("TryExec") ?? values.GetValueOrDefault("Exec") ?? ""), Places = [file],
        };
    }

    private static byte[] Bytes(string file)
    {
        if (Posix.TypeOf(file) != Posix.FileType.Regular) throw new IOException("it is no file");
        using var open = File.OpenHandle(file);
        var bytes = new byte[Math.Min(MostBytes, RandomAccess.GetLength(open))];
        return bytes[..RandomAccess.Read(open, bytes, 0)];
    }

    private static Dictionary<string, string> Values(string text)
    {
        var values = new Dictionary<string, string>(StringComparer.Ordinal);
        var isIn = false;
        foreach (var line in text.Split('\n').Select(line => line.Trim()))
        {
            if (line.StartsWith('[')) isIn = line == "[Desktop Entry]";
            else if (isIn && line.Split('=', 2) is [var key, var value]) values.TryAdd(key.TrimEnd(), value.TrimStart());
        }

        return values;
    }

    private static string? ProgramOf(string line)
    {
        var first = line.StartsWith('"') ? line[1..].Split('"')[0] : line.Split(' ')[0];
        var name = Path.GetFileName(first);
        return name.Length > 0 ? name : null;
    }
}
