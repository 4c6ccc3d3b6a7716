using System.CommandLine;
using System.Globalization;
using AmberCrate.Cli.CommandLine;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Trust;
using AmberCrate.Engine.Publishing;
using AmberCrate.Engine.Trust;

namespace AmberCrate.Cli.Publishing;

/// <summary><c>acrate catalogue keys</c> and its commands.</summary>
internal static class CatalogueKeyCommands
{
    /// <summary>The command.</summary>
    public static Command Create() => new("keys", "Make, list and replace the keys that sign a catalogue")
    {
        CreateNew(), CreateList(), CreateRotate(), CreateInclude(), CreateDrop(),
    };

    private static HelpedCommand CreateNew()
    {
        var folder = Folder();
        var type = new DeclaredOption<string>(OptionGroup.Files, "--type")
        {
            Description = "The type of key: ecdsa (default) or ed25519", HelpName = "TYPE",
        };
        var passphrase = KeyOptions.PassphraseOption();
        var asks = new DeclaredOption<bool>(OptionGroup.Files, "--passphrase")
        {
            Description = "Ask for a passphrase for the keys",
        };
        var command = new HelpedCommand("new", "Make keys", new CommandHelp(
            "Makes three keys, each in a file that only you can read, and its public key beside it: root, which says who may "
                + "sign; targets, which signs what "
                + "you publish; online, which is renewed by a timer. Keep root away from the web server, and a copy of all in a "
                + "safe.",
            [4, 7],
            [
                ("acrate catalogue keys new keys", "makes keys/root.pem, targets.pem and online.pem"),
                ("acrate catalogue keys new keys --passphrase", "the same, with a passphrase that you type"),
            ]))
        { folder, type, asks, passphrase };
        command.SetAction(parsed =>
        {
            using var call = new Call(parsed);
            var (named, kind) = (parsed.GetValue(folder)!, parsed.GetValue(type) ?? TrustKey.Ecdsa);
            if (kind is not (TrustKey.Ecdsa or TrustKey.Ed25519))
                throw new Problem(ProblemCode.BadCommandLine, $"--type takes ecdsa or ed25519, not \"{kind}\"").ToException();
            var ring = new KeyRing(call.Host.FullPath(named), null);
            var secret = parsed.GetValue(asks) ? KeyOptions.NewPassphrase(call)
                : KeyOptions.Passphrase(parsed, passphrase, call, ring.Folder);
            PublishingView.ShowKeys(call.Output, new KeyRing(ring.Folder, secret).MakeAll(kind));
            if (!call.Output.IsJson) call.Output.Next(NextCommand.Create("catalogue build", "CARDS", "OUT", "--keys", named));
            return ExitCodes.AllAsAsked;
        });
        return command;
    }

    private static HelpedCommand CreateList()
    {
        var folder = Folder();
        var passphrase = KeyOptions.PassphraseOption();
        var command = new HelpedCommand("list", "List keys", new CommandHelp(
            "Lists the keys of a folder with their ids, as signed files name them.",
            [3, 4, 5, 7],
            [
                ("acrate catalogue keys list keys", "the ids of your keys"),
                ("acrate catalogue keys list keys --json", "the same, for a program"),
            ]))
        { folder, passphrase };
        command.SetAction(parsed =>
        {
            using var call = new Call(parsed);
            var ring = new KeyRing(call.Host.FullPath(parsed.GetValue(folder)!), null);
            var secret = KeyOptions.Passphrase(parsed, passphrase, call, ring.Folder);
            var there = KeyRing.Names.Where(key => File.Exists(ring.PathOf(key))).ToList();
            if (there.Count == 0)
                throw new Problem(
                    ProblemCode.NothingMatched, $"{parsed.GetValue(folder)} holds no keys",
                    remedy: NextCommand.Create("catalogue keys new", parsed.GetValue(folder)!)).ToException();
            PublishingView.ShowKeys(call.Output, [.. there.Select(key => (key, KeyFile.Open(ring.PathOf(key), secret).Key))]);
            return ExitCodes.AllAsAsked;
        });
        return command;
    }

    private static HelpedCommand CreateRotate()
    {
        var (target, role) = (CatalogueTrustCommands.Published(), Role("The key to replace: root, targets or online"));
        var command = new HelpedCommand("rotate", "Replace a key", new CommandHelp(
            "Replaces a key, after a loss or a theft or when its time has come. The next root names it, signed "
                + "by the old root key and the new one: machines that trust the catalogue follow by themselves. The old key is "
                + "kept as KEY.old.pem.",
            [3, 4, 5, 7],
            [
                ("acrate catalogue keys rotate site --role online --keys keys", "replaces the key on the web server"),
                ("acrate catalogue keys rotate site --role root --keys keys", "replaces the root key"),
            ]))
        { target, role };
        var keys = new KeyOptions(command);
        command.SetAction(parsed =>
        {
            using var call = new Call(parsed);
            var (named, key, ring) = (parsed.GetValue(target)!, RoleOf(parsed, role), keys.Require(parsed, call));
            var done = new ChangeKeys(call.Host, call.Host.FullPath(named), ring).Rotate(key, keys.PassphraseOf(parsed, call));
            PublishingView.ShowSigned(call.Output, named, done);
            return ExitCodes.AllAsAsked;
        });
        return command;
    }

    private static HelpedCommand CreateInclude()
    {
        var (target, role) = (CatalogueTrustCommands.Published(), Role("What it signs: root, targets or online"));
        var (threshold, key) = (Threshold(), new DeclaredOption<string>(OptionGroup.Files, "--key")
        {
            Description = "The public key, such as targets.public.pem of another maintainer", HelpName = "FILE", Required = true,
            Completion = Completion.File,
        });
        var command = new HelpedCommand("include", "Let another key sign too", new CommandHelp(
            "Adds the public key of another maintainer to those that sign. With --threshold, that many of them must sign from "
                + "now on: a publication then waits until enough have, by catalogue sign.",
            [3, 4, 5, 8],
            [
                ("acrate catalogue keys include site --key theirs.pem --role targets --keys keys", "either of you publishes"),
                ("acrate catalogue keys include site --key b --role root --threshold 2 --keys k", "both must sign"),
            ]))
        { target, key, role, threshold };
        return Changing(command, target, (change, parsed) =>
            change.Include(parsed.GetValue(key)!, RoleOf(parsed, role), ThresholdOf(parsed, threshold)));
    }

    private static HelpedCommand CreateDrop()
    {
        var (target, role) = (CatalogueTrustCommands.Published(), Role("What it signs: root, targets or online"));
        var (threshold, id) = (Threshold(), new DeclaredOption<string>(OptionGroup.Selection, "--id")
        {
            Description = "The id of the key, or its first 8 digits or more", HelpName = "ID", Required = true,
        });
        var command = new HelpedCommand("drop", "Let a key sign no longer", new CommandHelp(
            "Takes a key away from those that sign. What it alone has signed is signed again by a key that stays.",
            [3, 4, 5, 8],
            [
                ("acrate catalogue keys drop site --id 3fa94c01 --role targets --keys keys", "after a maintainer has left"),
                ("acrate catalogue keys drop site --id 3fa94c01 --role root --keys k", "the same for the root"),
            ]))
        { target, id, role, threshold };
        return Changing(command, target, (change, parsed) =>
            change.Drop(parsed.GetValue(id)!, RoleOf(parsed, role), ThresholdOf(parsed, threshold)));
    }

    /// <summary>Has a command change who signs the published folder that its argument names.</summary>
    public static HelpedCommand Changing(
        HelpedCommand command, Argument<string> target, Func<ChangeKeys, ParseResult, Signing> change)
    {
        var keys = new KeyOptions(command);
        command.SetAction(parsed =>
        {
            using var call = new Call(parsed);
            var folder = parsed.GetValue(target)!;
            PublishingView.ShowSigned(call.Output, folder, change(
                new ChangeKeys(call.Host, call.Host.FullPath(folder), keys.Require(parsed, call)), parsed));
            return ExitCodes.AllAsAsked;
        });
        return command;
    }

    private static DeclaredOption<string> Role(string description) => new(OptionGroup.Selection, "--role")
    {
        Description = description, HelpName = "KEY", Required = true,
    };

    private static DeclaredOption<string> Threshold() => new(OptionGroup.Selection, "--threshold")
    {
        Description = "How many keys must sign; default: as many as before", HelpName = "N",
    };

    private static string RoleOf(ParseResult parsed, Option<string> role) =>
        parsed.GetValue(role) is { } key && KeyRing.Names.Contains(key) ? key : throw new Problem(
            ProblemCode.BadCommandLine, $"--role takes root, targets or online, not \"{parsed.GetValue(role)}\"").ToException();

    private static int? ThresholdOf(ParseResult parsed, Option<string> option) => parsed.GetValue(option) is not { } text ? null
        : int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var number) ? number
        : throw new Problem(ProblemCode.BadCommandLine, $"--threshold takes a number, not \"{text}\"").ToException();

    private static DeclaredArgument<string> Folder() =>
        new("KEYS-DIR", Completion.Folder) { Description = "The folder of the keys" };
}
