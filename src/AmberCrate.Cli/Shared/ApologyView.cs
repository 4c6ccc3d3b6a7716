using AmberCrate.Cli.Tables;
using AmberCrate.Engine.Host;

namespace AmberCrate.Cli.Shared;

/// <summary>Apologises for a mistake of this program, and keeps what is needed to correct it.</summary>
internal static class ApologyView
{
    /// <summary>Says so in one line on standard error, and writes the rest to a file.</summary>
    /// <returns>The exit code.</returns>
    public static int Show(Exception mistake)
    {
        var log = CrashLog.Write(mistake, TimeProvider.System, Environment.GetCommandLineArgs());
        var where = log is null ? $"{mistake.GetType().Name}: {mistake.Message}" : $"the details are in {log}";
        Console.Error.WriteLine($"acrate: sorry, this is a mistake of acrate itself; {Printable.Line(where)}");
        return ExitCodes.OwnMistake;
    }
}
