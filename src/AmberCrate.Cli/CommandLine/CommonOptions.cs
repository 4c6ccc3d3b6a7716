using System.CommandLine;
using System.CommandLine.Parsing;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;

namespace AmberCrate.Cli.CommandLine;

/// <summary>Options that mean the same everywhere.</summary>
internal static class CommonOptions
{
    public static Option<bool> Help { get; } = new DeclaredOption<bool>(OptionGroup.Output, "--help", "-h")
    {
        Description = "Show this help", Recursive = true,
    };

    public static Option<bool> Json { get; } = new DeclaredOption<bool>(OptionGroup.Output, "--json")
    {
        Description = "Write JSON to standard output, and nothing else there", Recursive = true,
    };

    public static Option<string> Root { get; } = new DeclaredOption<string>(OptionGroup.Place, "--root")
    {
        Description = "Keep everything below DIR, as if it were the home folder, or / with --all-users", HelpName = "DIR",
        Recursive = true, Completion = Completion.Folder,
    };

    public static Option<bool> AllUsers { get; } = new DeclaredOption<bool>(OptionGroup.Place, CallOptions.AllUsersOption)
    {
        Description = "Work on the apps for all users of this machine, instead of your own", Recursive = true,
    };

    public static Option<bool> NoColour { get; } = new DeclaredOption<bool>(OptionGroup.Output, "--no-colour")
    {
        Description = "Write without colour, as NO_COLOR=1 does", Recursive = true,
    };

    public static Option<bool> Offline { get; } = new DeclaredOption<bool>(OptionGroup.Network, "--offline")
    {
        Description = "Use no network, only what is cached", Recursive = true,
    };

    public static Option<bool> Verbose { get; } = new DeclaredOption<bool>(OptionGroup.Output, "--verbose")
    {
        Description = "Show every step, and unchanged apps in plans", Recursive = true,
    };

    public static Option<bool> Quiet { get; } = new DeclaredOption<bool>(OptionGroup.Output, "--quiet", "-q")
    {
        Description = "With --yes: show problems only",
    };

    public static Option<bool> Yes { get; } = new DeclaredOption<bool>(OptionGroup.Plan, "--yes", "-y")
    {
        Description = "Do not ask before changing something",
    };

    public static Option<bool> DryRun { get; } = new DeclaredOption<bool>(OptionGroup.Plan, "--dry-run", "-n")
    {
        Description = "Show the plan and stop",
    };

    public static Option<bool> Pick { get; } = new DeclaredOption<bool>(OptionGroup.Plan, "--pick")
    {
        Description = "Choose on the terminal which planned changes to make",
    };

    public static Option<string[]> Skip { get; } = new DeclaredOption<string[]>(OptionGroup.Selection, "--skip")
    {
        Description = "Leave APP out, and what needs it", HelpName = "APP", Completion = Completion.OfferedApp,
    };

    public static Option<string> AsShown { get; } = new DeclaredOption<string>(OptionGroup.Plan, "--as-shown")
    {
        Description = "Make the changes without asking if the plan still has this digest, which --dry-run --json shows",
        HelpName = "sha256:DIGEST",
    };

    public static Option<string[]> AcceptDigest { get; } = new DeclaredOption<string[]>(OptionGroup.Files, "--accept-digest")
    {
        Description = "Accept the file with this digest for APP instead of the catalogue's; check it yourself first",
        HelpName = "APP=sha256:DIGEST",
    };

    public static Option<string> Downloads { get; } = new DeclaredOption<string>(OptionGroup.Network, "--downloads")
    {
        Description = "Download up to N files at a time; 4 unless set", HelpName = "N",
    };

    public static Option<string> Bandwidth { get; } = new DeclaredOption<string>(OptionGroup.Network, "--bandwidth")
    {
        Description = "Download at most SIZE a second in all, such as 2MiB", HelpName = "SIZE",
    };

    public static Option<string[]> InstallerArguments { get; } =
        new DeclaredOption<string[]>(OptionGroup.Files, "--installer-argument")
        {
            Description = "Give the installer of APP one more argument; kept for upgrades and bundles",
            HelpName = "APP=ARGUMENT",
        };

    public static Option<bool> EvenInUse { get; } = new DeclaredOption<bool>(OptionGroup.Waiting, "--even-in-use")
    {
        Description = "Change apps even while they are in use",
    };

    public static Option<bool> RemoveUnneeded { get; } = new DeclaredOption<bool>(OptionGroup.Selection, "--remove-unneeded")
    {
        Description = "Also uninstall dependencies that no app needs any more",
    };

    public static Option<string> WaitClosed { get; } = new DeclaredOption<string>(OptionGroup.Waiting, "--wait-closed")
    {
        Description = "Wait up to MINUTES for apps in use to be closed", HelpName = "MINUTES",
    };

    public static Option<bool> AllowUnconfined { get; } = new DeclaredOption<bool>(OptionGroup.Files, "--allow-unconfined")
    {
        Description = "Run installers with all your rights where they cannot be confined; never as root",
    };

    public static Option<string[]> Shadow { get; } = new DeclaredOption<string[]>(OptionGroup.Files, "--shadow")
    {
        Description = "Let an app place the command NAME although it hides another one on PATH", HelpName = "NAME",
    };

    public static Option<string[]> TakeOver { get; } = new DeclaredOption<string[]>(OptionGroup.Files, "--take-over")
    {
        Description = "Let the catalogue NAME upgrade apps that came from another location under that name", HelpName = "NAME",
    };

    public static Option<bool> Unsigned { get; } = new DeclaredOption<bool>(OptionGroup.Files, "--unsigned")
    {
        Description = "Use catalogues that are not signed; never over plain http",
    };

    public static Option<bool> AcceptStale { get; } = new DeclaredOption<bool>(OptionGroup.Network, "--accept-stale")
    {
        Description = "Use signed data whose time has run out, as on an old stick",
    };

    public static Option<string> Report { get; } = new DeclaredOption<string>(OptionGroup.Output, "--report")
    {
        Description = "Write how it ended into FILE: JSON, Markdown or HTML, as .json, .md or .html says", HelpName = "FILE",
        Completion = Completion.File,
    };

    public static Option<string> Wait { get; } = new DeclaredOption<string>(OptionGroup.Waiting, "--wait")
    {
        Description = "Wait up to SECONDS for another run to end", HelpName = "SECONDS",
    };

    public static Option<string> ListFile { get; } = new DeclaredOption<string>(OptionGroup.Selection, "--list-file")
    {
        Description = "Read more apps from FILE, one a line, # for comments; - for standard input", HelpName = "FILE",
        Completion = Completion.File,
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
    public static Argument<string[]> Apps(string description, Completion completion) =>
        new DeclaredArgument<string[]>("APP", completion) { Description = description, Arity = ArgumentArity.ZeroOrMore };

    /// <summary>An option <c>--language</c>.</summary>
    public static Option<string> LanguageOf(string description) =>
        new DeclaredOption<string>(OptionGroup.Selection, "--language") { Description = description, HelpName = "LANG" };

    /// <summary>The language that was requested; null for that of the environment.</summary>
    /// <exception cref="ProblemException">It is none.</exception>
    public static string? ReadLanguage(string? typed, string command) => typed is null || LanguageTag.TryParse(typed, out _)
        ? typed
        : throw new Problem(
            ProblemCode.BadCommandLine, $"--language takes {LanguageTag.Expected}, not \"{typed}\"",
            remedy: NextCommand.HelpOf(command)).ToException();
}
