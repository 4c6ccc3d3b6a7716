using System.CommandLine;
using System.Globalization;
using AmberCrate.Cli.CommandLine;
using AmberCrate.Core.Pins;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Pinning;

namespace AmberCrate.Cli.Pinning;

/// <summary><c>acrate pin</c>.</summary>
internal static class PinCommand
{
    public static Command Create()
    {
        var app = new DeclaredArgument<string>("APP[@SEL]", Completion.InstalledApp)
        {
            Description = "An app, and the versions it may have; default: its installed version",
            Arity = ArgumentArity.ZeroOrOne,
        };
        var reason = new DeclaredOption<string>(OptionGroup.Selection, "--reason")
        {
            Description = "Why the app is pinned, for whoever reads it later", HelpName = "TEXT",
        };
        var until = new DeclaredOption<string>(OptionGroup.Selection, "--until")
        {
            Description = "The last day of the pin, such as 2027-03-31", HelpName = "DATE",
        };
        var lift = new DeclaredOption<bool>(OptionGroup.Selection, "--lift") { Description = "Remove the pin of APP" };
        var command = new HelpedCommand("pin", "Keep an app at a version, with a reason and an end", new CommandHelp(
            "Keeps an app at a version or in a range: upgrades and installs obey. Without APP it lists the pins and what each "
                + "holds back. A pin is not what the app follows; lifting it leaves that as it was.",
            [3, 7, 8, 9],
            [
                ("acrate pin scrim-paint@4.2.x --reason \"autumn show\" --until 2027-03-31", "pins it"),
                ("acrate pin scrim-paint --lift", "removes the pin"),
            ]))
        { app, reason, until, lift };
        command.SetAction(parsed =>
        {
            using var call = new Call(parsed);
            var operation = new SetPin(call.Session);
            PinsView.Show(call.Output, (parsed.GetValue(app), parsed.GetValue(lift)) switch
            {
                (null, false) when parsed.GetValue(reason) is null && parsed.GetValue(until) is null => operation.List(),
                (null, _) => throw call.NoApp().ToException(),
                ({ } name, true) => operation.Lift(call.InstalledNames([name])[0]),
                ({ } text, false) => operation.Set(
                    call.References([text])[0], Reason(parsed.GetValue(reason)), Day(parsed.GetValue(until))),
            });
            return ExitCodes.AllAsAsked;
        });
        return command;
    }

    private static string? Reason(string? text) => text?.Trim() is not { Length: > 0 } said ? null
        : said.Length <= Pin.MostReason ? said
        : throw new Problem(
            ProblemCode.BadCommandLine, "the reason is too long",
            $"it has {said.Length} characters; at most {Pin.MostReason} are kept").ToException();

    private static DateOnly? Day(string? text) => text is null ? null
        : DateOnly.TryParseExact(text, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var day) ? day
        : throw new Problem(
            ProblemCode.BadCommandLine, $"--until \"{text}\" is not a day", "expected a day such as 2027-03-31").ToException();
}
