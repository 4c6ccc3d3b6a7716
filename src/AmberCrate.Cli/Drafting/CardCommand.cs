using System.CommandLine;
using AmberCrate.Cli.CommandLine;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Versions;
using AmberCrate.Engine.Drafting;
using AmberCrate.Engine.Publishing;

namespace AmberCrate.Cli.Drafting;

/// <summary><c>acrate card</c>: for those who write app cards.</summary>
internal static class CardCommand
{
    private static readonly TimeSpan StartTime = TimeSpan.FromSeconds(15);

    public static Command Create() =>
        new("card", "Write and check app cards: draft, release, check") { CreateDraft(), CreateRelease(), CreateCheck() };

    private static HelpedCommand CreateDraft()
    {
        var files = new DeclaredArgument<string[]>("FILE", Completion.File)
        {
            Description = "A vendor's file, or its http: or https: address", Arity = ArgumentArity.OneOrMore,
        };
        var folder = new DeclaredOption<string>(OptionGroup.Files, "--cards")
        {
            Description = "The folder of cards to write to; default: this folder", HelpName = "FOLDER",
            Completion = Completion.Folder, DefaultValueFactory = _ => ".",
        };
        var command = new HelpedCommand("draft", "Write a card from a vendor's file", new CommandHelp(
            "Looks into a package, an archive, an AppImage or a program, and writes an app card from what it finds: names, "
                + "licence, commands, menu entries, icons, digest and sizes. Nothing of it is started. What cannot be known is "
                + "left as a comment with a question. Packages that depend on each other make one app; several releases of an "
                + "app make one card. A card that is there is not touched.",
            [1, 3, 4, 5, 6],
            [
                ("acrate card draft files/scrim-paint-4.2.1.tar.xz", "writes scrim-paint.appcard.toml"),
                ("acrate card draft guild/files/cue-ledger.deb --cards guild", "writes the card into the folder guild"),
            ]))
        { files, folder };
        command.SetAction(async (parsed, cancel) =>
        {
            using var call = new Call(parsed);
            var result = await new DraftCard(call.Session).RunAsync(
                parsed.GetValue(files)!, parsed.GetValue(folder)!, cancel);
            if (result.Cards.Count == 0 && result.Failed is [var (_, problem)]) throw problem.ToException();
            CardView.ShowDrafts(call.Output, result);
            return result.Failed.Count == 0 ? ExitCodes.AllAsAsked
                : result.Cards.Count > 0 ? ExitCodes.SomeFailed
                : ExitCodes.ForProblem(result.Failed[0].Problem.Code);
        });
        return command;
    }

    private static HelpedCommand CreateRelease()
    {
        var card = new DeclaredArgument<string>("CARD", Completion.File) { Description = "The card's file" };
        var files = new DeclaredArgument<string[]>("FILE", Completion.File)
        {
            Description = "The vendor's file, or its http: or https: address; several for a release that comes in several files",
            Arity = ArgumentArity.OneOrMore,
        };
        var version = new DeclaredOption<string>(OptionGroup.Selection, "--version")
        {
            Description = "The version, where the file does not tell it", HelpName = "VERSION",
        };
        var line = new DeclaredOption<string>(OptionGroup.Selection, "--line")
        {
            Description = "The release line, such as lts", HelpName = "LINE",
        };
        var metainfo = new DeclaredOption<bool>(OptionGroup.Selection, "--from-metainfo")
        {
            Description = "Take date, urgency and news from the metainfo in the file, and fail where it has none",
        };
        var command = new HelpedCommand("release", "Add a release to a card", new CommandHelp(
            "Adds a release with its digest and sizes to a card. Everything else in the card stays as it is: comments, order, "
                + "spaces. A file for another platform is added to the release that is there. Several files are unpacked in "
                + "their order into one folder.",
            [3, 4, 5, 6],
            [
                ("acrate card release scrim-paint.appcard.toml files/scrim-4.3.0.tar.xz", "adds version 4.3.0"),
                ("acrate card release scrim.appcard.toml next.tar.xz --version 5.0-rc1", "says which version it is"),
            ]))
        { card, files, version, line, metainfo };
        command.SetAction(async (parsed, cancel) =>
        {
            using var call = new Call(parsed);
            var result = await new ReleaseCard(call.Session).RunAsync(
                new ReleaseRequest(
                    parsed.GetValue(card)!, parsed.GetValue(files)!, ReadVersion(parsed.GetValue(version)),
                    ReadLine(parsed.GetValue(line)), parsed.GetValue(metainfo)),
                cancel);
            CardView.ShowRelease(call.Output, result);
            return ExitCodes.AllAsAsked;
        });
        return command;
    }

    private static HelpedCommand CreateCheck()
    {
        var places = new DeclaredArgument<string[]>("CARD", Completion.File)
        {
            Description = "Cards, or folders of cards; default: this folder", Arity = ArgumentArity.ZeroOrMore,
        };
        var reach = new DeclaredOption<bool>(OptionGroup.Files, "--reach")
        {
            Description = "Download from every address, and check size and digest",
        };
        var system = new DeclaredOption<string>(OptionGroup.Files, "--base")
        {
            Description = "Look for libraries in the system under FOLDER instead of this machine", HelpName = "FOLDER",
            Completion = Completion.Folder,
        };
        var start = new DeclaredOption<bool>(OptionGroup.Files, "--start")
        {
            Description = "Start what each card's newest release brings, and say whether a window opens",
        };
        var command = new HelpedCommand("check", "Check cards and the files beside them", new CommandHelp(
            "Checks what a catalogue would be refused for, and what would fail on a workstation: faults of the cards, what they "
                + "need of each other, whether every release can be planned, and for files beside them digest, size, "
                + "unpacking, and whether what is placed is in them. --start starts every command and menu entry, confined by "
                + "bubblewrap and under a display that is not shown (Xvfb), in this system or in that of --base. Warnings do not "
                + "stop a publication.",
            [3, 5],
            [
                ("acrate card check guild", "all cards of the folder guild"),
                ("acrate card check scrim-paint.appcard.toml --start", "starts the app, and says whether its window opens"),
            ]))
        { places, reach, system, start };
        command.SetAction(async (parsed, cancel) =>
        {
            using var call = new Call(parsed);
            var named = parsed.GetValue(places)!;
            var result = await new CheckCards(call.Session).RunAsync(
                new CheckCardsRequest(named.Length > 0 ? named : ["."], parsed.GetValue(system), parsed.GetValue(reach))
                {
                    StartTime = parsed.GetValue(start) ? StartTime : null,
                }, cancel);
            CardView.ShowChecked(call.Output, result);
            return result.Faults > 0 ? ExitCodes.ForProblem(ProblemCode.NotVerified) : ExitCodes.AllAsAsked;
        });
        return command;
    }

    private static AppVersion? ReadVersion(string? text) => text is null ? null
        : AppVersion.TryParse(text, out var version) ? version
        : throw Misuse($"--version takes {AppVersion.Expected}, not \"{text}\"");

    private static ReleaseLine? ReadLine(string? text) => text is null ? null
        : ReleaseLine.TryParse(text, out var line) ? line
        : throw Misuse($"--line takes {ReleaseLine.Expected}, not \"{text}\"");

    private static ProblemException Misuse(string what) =>
        new Problem(ProblemCode.BadCommandLine, what, remedy: NextCommand.HelpOf("card release")).ToException();
}
