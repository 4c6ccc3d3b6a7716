using System.CommandLine;
using AmberCrate.Cli.CommandLine;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Kits;

namespace AmberCrate.Cli.Kits;

/// <summary><c>acrate kit</c> and its commands.</summary>
internal static class KitCommand
{
    public static Command Create() => new("kit", "Carry a bundle with all that it needs in one file")
    {
        CreateMake(), CreateView(),
    };

    private static HelpedCommand CreateMake()
    {
        var bundle = SharedArguments.CreateBundle();
        var output = new DeclaredOption<string>(OptionGroup.Output, "--output", "-o")
        {
            Description = "The kit to write, such as frame.amberkit", HelpName = "FILE", Required = true,
            Completion = Completion.File,
        };
        var program = new DeclaredOption<bool>(OptionGroup.Files, "--with-acrate")
        {
            Description = "Put this program into the kit, and beside it: there, acrate equip alone is enough",
        };
        var split = new DeclaredOption<string>(OptionGroup.Files, "--split")
        {
            Description = "Write files of at most SIZE, such as 4GiB for sticks with FAT", HelpName = "SIZE",
        };
        var platform = SharedArguments.CreatePlatform("Make it for PLATFORM; this machine's own unless given");
        var command = new HelpedCommand("make", "Make a kit of a bundle", new CommandHelp(
            "Seals a bundle, downloads what it takes, and writes everything into one file; equip works with it without any "
                + "network. Interrupted, the same command goes on where it stopped.",
            [3, 4, 5, 6],
            [
                ("acrate kit make frame.bundle.toml -o /media/stick/frame.amberkit --with-acrate", "onto a stick"),
                ("acrate kit make guild:paintframe -o frame.amberkit --split 4GiB", "in files that FAT can hold"),
            ]))
        { bundle, output, program, split, platform, CommonOptions.Downloads, CommonOptions.Bandwidth };
        command.SetAction(async (parsed, cancel) =>
        {
            using var call = new Call(parsed);
            var request = new KitRequest(parsed.GetValue(bundle)!, parsed.GetValue(output)!)
            {
                Platform = SharedArguments.ReadPlatform(parsed.GetValue(platform)), WithProgram = parsed.GetValue(program),
                Split = ReadSplit(parsed.GetValue(split)),
            };
            var result = await new MakeKit(call.Session).RunAsync(request, call.RunOptions(), cancel);
            call.EndProgress();
            KitView.ShowMade(call.Output, result);
            return ExitCodes.AllAsAsked;
        });
        return command;
    }

    private static HelpedCommand CreateView()
    {
        var kit = new DeclaredArgument<string>("KIT", Completion.File) { Description = "The kit" };
        var command = new HelpedCommand("view", "Show what is in a kit", new CommandHelp(
            "Lists the apps in a kit with their sizes, how old it is, and what has a newer release by now.",
            [3, 5],
            [
                ("acrate kit view frame.amberkit", "what is in it"),
                ("acrate kit view frame.amberkit --json", "the same as JSON"),
            ]))
        { kit };
        command.SetAction(parsed =>
        {
            using var call = new Call(parsed);
            KitView.Show(call.Output, new MakeKit(call.Session).View(parsed.GetValue(kit)!));
            return ExitCodes.AllAsAsked;
        });
        return command;
    }

    private static long? ReadSplit(string? text)
    {
        const long least = 1 << 20;
        if (text is null) return null;
        return ByteSize.TryParse(text, out var bytes) && bytes >= least
            ? bytes == 4L << 30 ? bytes - 1 : bytes
            : throw new Problem(
                ProblemCode.BadCommandLine, $"--split \"{text}\" cannot be used", "expected a size from 1MiB, such as 4GiB")
                    .ToException();
    }
}
