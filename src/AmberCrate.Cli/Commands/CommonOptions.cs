using System.CommandLine;
using System.CommandLine.Parsing;
using AmberCrate.Core.Problems;

namespace AmberCrate.Cli.Commands;

/// <summary>Options that mean the same everywhere.</summary>
internal static class CommonOptions
{
    public static Option<bool> Json { get; } = new("--json")
    {
        Description = "Write one JSON document to standard output, and nothing else there", Recursive = true,
    };

    public static Option<string> Root { get; } = new("--root")
    {
        Description = "Keep everything below DIR, as if it were the home folder, or / with --everyone", HelpName = "DIR",
        Recursive = true,
    };

    public static Option<bool> AllUsers { get; } = new(CallOptions.AllUsersOption)
    {
        Description = "Work on the apps of everyone on this machine instead of your own", Recursive = true,
    };

    public static Option<bool> NoColour { get; } = new("--no-colour")
    {
        Description = "Write without colour, as NO_COLOR=1 does", Recursive = true,
    };

    public static Option<bool> Offline { get; } = new("--offline")
    {
        Description = "Ask nobody over the network; use what is cached", Recursive = true,
    };

    public static Option<bool> Verbose { get; } = new("--verbose")
    {
        Description = "Tell on standard error what is done, step by step", Recursive = true,
    };

    public static Option<bool> Yes { get; } = new("--yes", "-y") { Description = "Do not ask before changing something" };

    public static Option<bool> DryRun { get; } = new("--dry-run", "-n") { Description = "Show the plan and stop" };

    public static Option<bool> Pick { get; } = new("--pick")
    {
        Description = "Tick on the terminal what of the plan to carry out",
    };

    /// <summary>
    /// The words of an argument as they are. The parser's own way to make an array of them takes as long as reading a card.
    /// </summary>
    public static string[] TextsOf(ArgumentResult result)
    {
        var texts = new string[result.Tokens.Count];
        for (var at = 0; at < texts.Length; at++) texts[at] = result.Tokens[at].Value;
        return texts;
    }

    /// <summary>An argument that names apps, as many as one likes.</summary>
    public static Argument<string[]> Apps(string description) =>
        new("APP") { Description = description, Arity = ArgumentArity.ZeroOrMore };

    public static Option<string[]> Skip { get; } = new("--skip")
    {
        Description = "Leave APP out of the plan, and what cannot be there without it", HelpName = "APP",
    };

    public static Option<string> AsShown { get; } = new("--as-shown")
    {
        Description = "Carry the plan out without showing it or asking, if it is the one of this digest, which --dry-run "
            + "--json tells",
        HelpName = "sha256:DIGEST",
    };

    public static Option<string[]> Expect { get; } = new("--expect")
    {
        Description = "Accept for APP the file of this digest, which you have checked, in place of the catalogue's",
        HelpName = "APP=sha256:DIGEST",
    };

    public static Option<string> Downloads { get; } = new("--downloads")
    {
        Description = "Fetch up to N files at a time (usually 4)", HelpName = "N",
    };

    public static Option<string> Bandwidth { get; } = new("--bandwidth")
    {
        Description = "Fetch no more than SIZE a second in all, such as 2MiB", HelpName = "SIZE",
    };

    public static Option<string[]> ToInstaller { get; } = new("--to-installer")
    {
        Description = "Give the installer of APP one argument more; remembered for upgrades and bundles",
        HelpName = "APP=ARGUMENT",
    };

    public static Option<bool> EvenOpen { get; } = new("--even-open") { Description = "Change apps too that are open" };

    public static Option<string> Wait { get; } = new("--wait")
    {
        Description = "Wait up to SECONDS for another run to end", HelpName = "SECONDS",
    };

    public static Option<string> ListFile { get; } = new("--list-file")
    {
        Description = "Take references from FILE too, one a line, # for comments", HelpName = "FILE",
    };
}
