namespace AmberCrate.Cli.CommandLine;

/// <summary>What the help of a command, its manual page and the documentation say in addition to its arguments and
/// options.</summary>
/// <param name="Purpose">What it is for, in a few sentences.</param>
/// <param name="ExitCodes">The exit codes that matter for it, in addition to 0 and 2.</param>
/// <param name="Examples">Command lines of the demo, each with what it does.</param>
internal sealed record CommandHelp(
    string Purpose, IReadOnlyList<int> ExitCodes, IReadOnlyList<(string Line, string Meaning)> Examples);
