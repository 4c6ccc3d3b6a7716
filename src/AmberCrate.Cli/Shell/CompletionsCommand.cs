using System.CommandLine;
using AmberCrate.Cli.CommandLine;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Searching;

namespace AmberCrate.Cli.Shell;

/// <summary><c>acrate completions</c>, and the hidden command that its scripts ask for names.</summary>
internal static class CompletionsCommand
{
    private static readonly string[] Shells = ["bash", "zsh", "fish"];

    public static Command Create(Func<RootCommand> whole)
    {
        var shell = new DeclaredArgument<string>("SHELL", Completion.Word)
        {
            Description = "bash, zsh or fish", Words = Shells,
        };
        var command = new HelpedCommand("completions", "A script that completes commands in a shell", new CommandHelp(
            "Writes a script for a shell, which then completes commands, options, ids of apps, names of catalogues and files. "
                + "The Debian package installs it already.",
            [],
            [
                ("acrate completions bash > ~/.local/share/bash-completion/completions/acrate", "for bash"),
                ("acrate completions fish > ~/.config/fish/completions/acrate.fish", "for fish"),
            ]))
        { shell };
        command.SetAction(parsed =>
        {
            using var output = Call.OutputOf(parsed);
            var name = parsed.GetValue(shell)!;
            output.Raw(name switch
            {
                "bash" => CompletionScript.Bash(whole()),
                "zsh" => CompletionScript.Zsh(whole()),
                "fish" => CompletionScript.Fish(whole()),
                _ => throw new Problem(
                    ProblemCode.BadCommandLine, $"there is no script for \"{name}\"", $"expected {string.Join(", ", Shells)}",
                    NextCommand.HelpOf("completions")).ToException(),
            });
            return ExitCodes.AllAsAsked;
        });
        return command;
    }

    /// <summary>The command that scripts ask: <c>acrate completion-names KIND [BEGINNING]</c>, a name a line.</summary>
    public static Command CreateNames()
    {
        var kind = new Argument<string>("KIND");
        var beginning = new Argument<string>("BEGINNING") { Arity = ArgumentArity.ZeroOrOne };
        var command = new Command("completion-names", "Names for completion scripts") { kind, beginning };
        command.Hidden = true;
        command.SetAction(parsed =>
        {
            using var call = new Call(parsed);
            var names = new ListNames(call.Session);
            var begins = parsed.GetValue(beginning) ?? "";
            foreach (var name in parsed.GetValue(kind) switch
            {
                CompletionScript.Offered => names.Offered(begins),
                CompletionScript.Installed => names.Installed(begins),
                CompletionScript.Catalogues => names.Catalogues(begins),
                _ => [],
            }) call.Output.Raw(name + "\n");
            return ExitCodes.AllAsAsked;
        });
        return command;
    }
}
