using System.CommandLine;
using AmberCrate.Cli.Views;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Operations;

namespace AmberCrate.Cli.Commands;

/// <summary><c>acrate export</c>.</summary>
internal static class ExportCommand
{
    public static Command Create()
    {
        var file = new Option<string>(
            "--output", "-o")
        { Description = "The bundle to write; standard output unless named", HelpName = "FILE" };
        var without = new Option<bool>("--without-versions")
        {
            Description = "Leave exact versions out: equip then takes the newest that fits",
        };
        var update = new Option<bool>("--update") { Description = "Bring an existing FILE up to date; comments and order stay" };
        var title = new Option<string>("--title") { Description = "What the bundle calls this machine", HelpName = "TEXT" };
        var command = new Command("export", "Write this machine down as a bundle") { file, without, update, title };
        command.SetAction(parsed =>
        {
            using var call = new Call(parsed);
            if (parsed.GetValue(file) is null && call.Output.IsJson)
                throw new Problem(
                    ProblemCode.BadCommandLine, "--json needs a file for the bundle", remedy: "add --output FILE").ToException();
            var request = new ExportRequest(
                parsed.GetValue(file), parsed.GetValue(title), !parsed.GetValue(without), parsed.GetValue(update));
            ExportView.Show(call.Output, new Export(call.Session).Run(request));
            return ExitCodes.AllAsAsked;
        });
        return command;
    }
}
