using System.CommandLine;
using System.CommandLine.Invocation;

namespace AmberCrate.Cli.Commands;

/// <summary>Says which version this is.</summary>
internal sealed class VersionAction : SynchronousCommandLineAction
{
    public override int Invoke(ParseResult parseResult)
    {
        Console.Out.WriteLine($"acrate {typeof(VersionAction).Assembly.GetName().Version?.ToString(3)}");
        return ExitCodes.AllAsAsked;
    }
}
