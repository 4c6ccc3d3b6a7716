using System.Globalization;

namespace AmberCrate.Engine.Host;

/// <summary>The record of a mistake of this program.</summary>
public static class CrashLog
{
    private const UnixFileMode OwnerOnly = UnixFileMode.UserRead | UnixFileMode.UserWrite;

    /// <summary>Writes a mistake down.</summary>
    /// <param name="mistake">The mistake.</param>
    /// <param name="clock">The clock.</param>
    /// <param name="commandLine">The command as it was typed.</param>
    /// <returns>The file, for its owner alone; null where none can be written.</returns>
    public static string? Write(Exception mistake, TimeProvider clock, IEnumerable<string> commandLine)
    {
        try
        {
            var name = string.Create(
                CultureInfo.InvariantCulture,
                $"acrate-mistake-{clock.GetUtcNow():yyyyMMdd'T'HHmmss}-{Environment.ProcessId}.log");
            var path = Path.Combine(Path.GetTempPath(), name);
            using var file = new StreamWriter(
                path, new FileStreamOptions { Mode = FileMode.CreateNew, Access = FileAccess.Write, UnixCreateMode = OwnerOnly });
            file.WriteLine(string.Join(' ', commandLine));
            file.WriteLine(mistake.ToString());
            return path;
        }
        catch (Exception fault) when (fault is IOException or UnauthorizedAccessException)
        {
            return null;
        }
    }
}
