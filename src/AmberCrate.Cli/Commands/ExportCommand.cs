using System.CommandLine;
using AmberCrate.Cli.Views;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Operations;

namespace AmberCrate.Cli.Commands;

/// <summary><c>acrate export</c>.</summary>
internal static class ExportCommand
{
    public static Command Create()
    {
        var file = new DeclaredOption<string>(OptionGroup.Selection, "--output", "-o")
        {
            Description = "The bundle to write; standard output where none is named", HelpName = "FILE",
            Completion = Completion.File,
        };
        var without = new DeclaredOption<bool>(OptionGroup.Selection, "--without-versions")
        {
            Description = "Leave exact versions out; equip then takes the newest of what each app follows",
        };
        var update = new DeclaredOption<bool>(OptionGroup.Selection, "--update")
        {
            Description = "Update an existing FILE; comments and order stay",
        };
        var title = new DeclaredOption<string>(OptionGroup.Selection, "--title")
        {
            Description = "What the bundle calls this machine", HelpName = "TEXT",
        };
        var command = new HelpedCommand("export", "Write this machine down as a bundle", new CommandHelp(
            "Writes the apps of this machine, their versions, what they follow and the catalogues they come from "
                + "into a bundle, from which equip makes another machine the same. Names what the bundle cannot contain.",
            [3, 7, 9],
            [
                ("acrate export -o paintframe.bundle.toml", "this machine as a bundle"),
                ("acrate export -o paintframe.bundle.toml --update", "the same file updated, with your comments in it"),
            ]))
        { file, without, update, title };
        command.SetAction(parsed =>
        {
            using var call = new Call(parsed);
            var target = parsed.GetValue(file) is { } named && named != InputFile.Standard ? named : null;
            if (target is null && call.Output.IsJson)
                throw new Problem(
                    ProblemCode.BadCommandLine, "--json needs a file for the bundle", remedy: "add --output FILE").ToException();
            var request = new ExportRequest(
                target, parsed.GetValue(title), !parsed.GetValue(without), parsed.GetValue(update));
            ExportView.Show(call.Output, new Export(call.Session).Run(request));
            return ExitCodes.AllAsAsked;
        });
        return command;
    }
}
