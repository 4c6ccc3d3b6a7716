namespace AmberCrate.Cli.Shell;

/// <summary>A command, as JSON.</summary>
internal sealed record HelpCommandDocument(string Name, string Task, string Form, string Description);
