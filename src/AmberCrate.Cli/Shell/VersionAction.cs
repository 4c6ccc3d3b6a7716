using System.CommandLine;
using System.CommandLine.Invocation;
using AmberCrate.Cli.CommandLine;
using AmberCrate.Engine.Exporting;

namespace AmberCrate.Cli.Shell;

/// <summary>Says which version this is, and with <c>--verbose</c> what is inside.</summary>
internal sealed class VersionAction : SynchronousCommandLineAction
{
    public override int Invoke(ParseResult parseResult)
    {
        using var output = Call.OutputOf(parseResult);
        var parts = parseResult.GetValue(CommonOptions.Verbose) || output.IsJson ? ComponentVersions.Run() : [];
        VersionView.Show(output, ComponentVersions.Program, parts);
        return ExitCodes.AllAsAsked;
    }
}
