using AmberCrate.Cli.Tables;
using AmberCrate.Engine.Host;
using Serilog;
using Serilog.Core;
using Serilog.Events;

namespace AmberCrate.Cli.Terminal;

/// <summary>Tells on standard error what is done step by step, with the time.</summary>
internal static class TraceView
{
    private static ILogger Log => field ??= new LoggerConfiguration().WriteTo.Sink(new ErrorSink()).CreateLogger();

    public static void Write(string line) => Log.WriteLine(TimeProvider.System, Printable.Line(line));

    private sealed class ErrorSink : ILogEventSink
    {
        public void Emit(LogEvent logEvent) =>
            Console.Error.WriteLine($"{logEvent.Timestamp.UtcDateTime:HH:mm:ss.fff}  {logEvent.RenderMessage()}");
    }
}
