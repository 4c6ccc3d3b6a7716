using Serilog;
using Serilog.Events;
using Serilog.Parsing;

namespace AmberCrate.Engine.Host;

/// <summary>Writes finished lines to a log, with the time of a clock that is handed in.</summary>
public static class LogLine
{
    /// <summary>How a line looks: when, then what.</summary>
    public const string Layout = "{Timestamp:yyyy-MM-dd'T'HH:mm:ss.fff'Z'}  {Message:l}{NewLine}";

    /// <summary>Writes a line; what would steer a terminal that shows the log becomes a space.</summary>
    public static void WriteLine(this ILogger logger, TimeProvider clock, string line)
    {
        var clean = string.Concat(line.Select(letter => char.IsControl(letter) ? ' ' : letter));
        logger.Write(
            new LogEvent(clock.GetUtcNow(), LogEventLevel.Information, null, new MessageTemplate([new TextToken(clean)]), []));
    }
}
