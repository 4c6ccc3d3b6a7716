using System.Globalization;
using System.Text;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Observing;

/// <summary>
/// Says which processes run from a folder, as far as this user may see: after proc(5), by where their executable lies, and for
/// scripts by the file that their interpreter was given.
/// </summary>
public static class RunningApps
{
    private const string Processes = "/proc", Gone = " (deleted)";

    /// <summary>
    /// The processes that run from a folder, in the order of their ids; not this one, nor those that have started it: this
    /// program may itself be an app.
    /// </summary>
    /// <param name="folder">The folder.</param>
    public static IReadOnlyList<(int Process, string Name)> In(string folder)
    {
        if (!Directory.Exists(folder) || !Directory.Exists(Processes)) return [];
        var inside = (RealPath.Resolve(folder) ?? folder).TrimEnd('/') + "/";
        var (found, own) = (new List<(int, string)>(), Ancestry());
        foreach (var path in Directory.EnumerateDirectories(Processes))
        {
            if (int.TryParse(Path.GetFileName(path), NumberStyles.None, CultureInfo.InvariantCulture, out var process)
                && !own.Contains(process) && RunsFrom(path, inside)) found.Add((process, NameOf(path)));
        }

        return [.. found.Order()];
    }

    /// <summary>The apps that processes run from.</summary>
    /// <param name="folder">The folder that has a folder for each app.</param>
    public static IReadOnlySet<AppId> IdsIn(string folder)
    {
        var found = new HashSet<AppId>();
        if (!Directory.Exists(folder) || !Directory.Exists(Processes)) return found;
        var inside = (RealPath.Resolve(folder) ?? folder).TrimEnd('/') + "/";
        foreach (var path in Directory.EnumerateDirectories(Processes))
        {
            if (int.TryParse(Path.GetFileName(path), NumberStyles.None, CultureInfo.InvariantCulture, out _)
                && FileOf(path, inside) is { } file && AppId.TryParse(file[inside.Length..].Split('/')[0], out var id))
                found.Add(id);
        }

        return found;
    }

    private static bool RunsFrom(string process, string folder) => FileOf(process, folder) is not null;

    /// <summary>The program or script of a process, where it is in a folder; null where it does not.</summary>
    private static string? FileOf(string process, string folder)
    {
        try
        {
            if (new FileInfo(Path.Combine(process, "exe")).LinkTarget is not { } program) return null;
            if (program.EndsWith(Gone, StringComparison.Ordinal)) program = program[..^Gone.Length];
            if (program.StartsWith(folder, StringComparison.Ordinal)) return program;

            // A script: its interpreter was given its path, or the path of a link to it, as the first argument that is one.
            var script = Encoding.UTF8.GetString(File.ReadAllBytes(Path.Combine(process, "cmdline")))
                .Split('\0')
                .Skip(1)
                .FirstOrDefault(word => !word.StartsWith('-'));
            return script is not null && script.StartsWith('/') && RealPath.Resolve(script) is { } real
                && real.StartsWith(folder, StringComparison.Ordinal) ? real : null;
        }
        catch (Exception gone) when (gone is IOException or UnauthorizedAccessException)
        {
            return null;
        }
    }

    /// <summary>This process and those above it.</summary>
    private static HashSet<int> Ancestry()
    {
        const string above = "PPid:";
        var found = new HashSet<int>();
        for (var process = Environment.ProcessId; process > 1 && found.Add(process);)
        {
            var line = Posix.Lines($"{Processes}/{process}/status")
                .FirstOrDefault(one => one.StartsWith(above, StringComparison.Ordinal));
            if (!int.TryParse(line?[above.Length..].Trim(), NumberStyles.None, CultureInfo.InvariantCulture, out process)) break;
        }

        return found;
    }

    private static string NameOf(string process)
    {
        try
        {
            return File.ReadAllText(Path.Combine(process, "comm")).Trim();
        }
        catch (Exception gone) when (gone is IOException or UnauthorizedAccessException)
        {
            return "?";
        }
    }
}
