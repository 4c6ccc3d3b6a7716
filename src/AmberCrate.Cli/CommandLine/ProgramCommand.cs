using System.CommandLine;
using AmberCrate.Cli.Terminal;

namespace AmberCrate.Cli.CommandLine;

/// <summary>The root of the command line, with what every command shares.</summary>
/// <param name="documents">Writes the JSON documents of all commands.</param>
internal sealed class ProgramCommand(DocumentWriter documents) : RootCommand
{
    /// <summary>Writes the JSON documents of all commands.</summary>
    public DocumentWriter Documents { get; } = documents;
}
