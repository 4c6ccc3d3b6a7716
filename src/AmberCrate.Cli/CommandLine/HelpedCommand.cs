using System.CommandLine;

namespace AmberCrate.Cli.CommandLine;

/// <summary>A command with all that its help says.</summary>
/// <param name="name">Its name.</param>
/// <param name="description">What it does, in a few words for the list of commands.</param>
/// <param name="help">What else its help says.</param>
internal sealed class HelpedCommand(string name, string description, CommandHelp help) : Command(name, description)
{
    /// <summary>What else its help says.</summary>
    public CommandHelp Help => help;
}
