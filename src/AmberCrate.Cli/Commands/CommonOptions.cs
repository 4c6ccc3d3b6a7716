using System.CommandLine;

namespace AmberCrate.Cli.Commands;

/// <summary>Options that mean the same everywhere.</summary>
internal static class CommonOptions
{
    public static Option<bool> Json { get; } = new("--json") { Description = "Write one JSON document to standard output, and nothing else there", Recursive = true };

    public static Option<string> Root { get; } = new("--root") { Description = "Keep everything below DIR, as if it were the home folder", HelpName = "DIR", Recursive = true };

    public static Option<bool> NoColour { get; } = new("--no-colour") { Description = "Write without colour, as NO_COLOR=1 does", Recursive = true };

    public static Option<bool> Offline { get; } = new("--offline") { Description = "Ask nobody over the network; use what is cached", Recursive = true };

    public static Option<bool> Yes { get; } = new("--yes", "-y") { Description = "Do not ask before changing something" };

    public static Option<bool> DryRun { get; } = new("--dry-run", "-n") { Description = "Show the plan and stop" };

    public static Option<string> ListFile { get; } = new("--list-file") { Description = "Take references from FILE too, one a line, # for comments", HelpName = "FILE" };
}
