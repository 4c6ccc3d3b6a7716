using System.CommandLine;
using AmberCrate.Cli.Views;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Trust;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;
using AmberCrate.Engine.Operations;
using AmberCrate.Engine.Trust;

namespace AmberCrate.Cli.Commands;

/// <summary>What <c>acrate catalogue</c> has to do with signatures.</summary>
internal static class CatalogueTrustCommands
{
    /// <summary><c>acrate catalogue about</c>.</summary>
    public static Command CreateAbout()
    {
        var name = new DeclaredArgument<string>("NAME", Completion.Catalogue) { Description = "The catalogue" };
        var command = new HelpedCommand("about", "Show who has signed a catalogue, and until when", new CommandHelp(
            "Shows where a catalogue is, how old its data are, and what is believed of it: the keys of each role, versions, and "
                + "until when they are good.",
            [3],
            [
                ("acrate catalogue about guild", "the keys and ends of guild"),
                ("acrate catalogue about guild --json", "the same, for a program"),
            ]))
        { name };
        command.SetAction(parsed =>
        {
            using var call = new Call(parsed);
            CatalogueView.ShowAbout(
                call.Output, new AboutCatalogue(call.Session).Run(CatalogueCommand.ReadName(parsed.GetValue(name)!)));
            return ExitCodes.AllAsAsked;
        });
        return command;
    }

    /// <summary><c>acrate catalogue renew</c>.</summary>
    public static Command CreateRenew()
    {
        var target = Published();
        var command = new HelpedCommand("renew", "Sign again what ends soon", new CommandHelp(
            "Signs the short-lived roles of a published catalogue again, so that machines go on believing it: for a timer. With "
                + "the keys for them, root and targets are renewed too. Nothing else changes.",
            [3, 4, 5],
            [
                ("acrate catalogue renew site --keys keys", "once a day"),
                ("acrate catalogue renew site --keys online-keys", "on the web server, with the online key alone"),
            ]))
        { target };
        var keys = new KeyOptions(command);
        command.SetAction(parsed =>
        {
            using var call = new Call(parsed);
            var folder = parsed.GetValue(target)!;
            var ring = keys.Ring(parsed, call) ?? throw new Problem(
                ProblemCode.BadCommandLine, "--keys is missing", remedy: "name the folder of the keys").ToException();
            CatalogueView.ShowSigned(
                call.Output, folder, new SignedRepository(call.Host.FullPath(folder), ring, call.Host.Clock.GetUtcNow()).Renew());
            return ExitCodes.AllAsAsked;
        });
        return command;
    }

    /// <summary><c>acrate catalogue mirror</c>.</summary>
    public static Command CreateMirror()
    {
        var name = new DeclaredArgument<string>("NAME", Completion.Catalogue) { Description = "The catalogue, which is signed" };
        var folder = new DeclaredArgument<string>("OUT-DIR", Completion.Folder) { Description = "The folder of the copy" };
        var artifacts = new DeclaredOption<bool>(OptionGroup.Files, "--with-artifacts")
        {
            Description = "Copy the artifacts that lie beside the catalogue too",
        };
        var only = new DeclaredOption<string[]>(OptionGroup.Selection, "--only")
        {
            Description = "Of the artifacts, copy those of APP only; may be given several times", HelpName = "APP",
        };
        var line = new DeclaredOption<string>(OptionGroup.Selection, "--line")
        {
            Description = "Of the artifacts, copy those of this release line only", HelpName = "LINE",
        };
        var platform = new DeclaredOption<string>(OptionGroup.Selection, "--platform")
        {
            Description = "Of the artifacts, copy those that run on PLATFORM only", HelpName = "PLATFORM",
        };
        var command = new HelpedCommand("mirror", "Keep a copy of a signed catalogue", new CommandHelp(
            "Copies a signed catalogue into a folder, with its signatures as they are: for a second web server, or a stick. All "
                + "is verified; only what is new is fetched. Machines add the copy under the same root, and trust it no more "
                + "than the network.",
            [2, 3, 4, 5, 6, 8],
            [
                ("acrate catalogue mirror guild /srv/guild --with-artifacts", "all of it"),
                ("acrate catalogue mirror guild stick --with-artifacts --only scrim-paint", "the artifacts of one app"),
            ]))
        { name, folder, artifacts, only, line, platform };
        command.SetAction(async (parsed, cancel) =>
        {
            using var call = new Call(parsed);
            var wish = new MirrorWish(CatalogueCommand.ReadName(parsed.GetValue(name)!), parsed.GetValue(folder)!)
            {
                WithArtifacts = parsed.GetValue(artifacts), Apps = parsed.GetValue(only) ?? [],
                Line = parsed.GetValue(line) is not { } text ? null
                    : ReleaseLine.TryParse(text, out var wanted) ? wanted
                    : throw Misuse($"--line takes {ReleaseLine.Expected}, not \"{text}\""),
                Platform = parsed.GetValue(platform) is not { } machine ? null
                    : Platform.TryParse(machine, out var on) ? on
                    : throw Misuse($"--platform takes {Platform.Expected}, not \"{machine}\""),
            };
            CatalogueView.ShowMirrored(call.Output, await new MirrorCatalogue(call.Session).RunAsync(wish, cancel));
            return ExitCodes.AllAsAsked;
        });
        return command;
    }

    /// <summary><c>acrate catalogue keys</c>.</summary>
    public static Command CreateKeys() =>
        new("keys", "Make, list and replace the keys that sign a catalogue") { CreateNew(), CreateKeyList(), CreateRotate() };

    private static HelpedCommand CreateNew()
    {
        var folder = Folder();
        var type = new DeclaredOption<string>(OptionGroup.Files, "--type")
        {
            Description = "The type of key: ecdsa (unless said) or ed25519", HelpName = "TYPE",
        };
        var passphrase = KeyOptions.PassphraseOption();
        var command = new HelpedCommand("new", "Make keys", new CommandHelp(
            "Makes three keys, each in a file that only you can read: root, which says who may sign; targets, which signs what "
                + "you publish; online, which is renewed by a timer. Keep root away from the web server, and a copy of all in a "
                + "safe.",
            [2, 4, 7],
            [
                ("acrate catalogue keys new keys", "makes keys/root.pem, targets.pem and online.pem"),
                ("acrate catalogue keys new keys --passphrase-file secret", "the same, with a passphrase"),
            ]))
        { folder, type, passphrase };
        command.SetAction(parsed =>
        {
            using var call = new Call(parsed);
            var (named, kind) = (parsed.GetValue(folder)!, parsed.GetValue(type) ?? TrustKey.Ecdsa);
            if (kind is not (TrustKey.Ecdsa or TrustKey.Ed25519))
                throw new Problem(ProblemCode.BadCommandLine, $"--type takes ecdsa or ed25519, not \"{kind}\"").ToException();
            var ring = new KeyRing(call.Host.FullPath(named), null);
            var secret = KeyOptions.Passphrase(parsed, passphrase, call);
            CatalogueView.ShowKeys(
                call.Output, [.. KeyRing.Names.Select(key => (key, KeyFile.Create(ring.PathOf(key), kind, secret)))]);
            if (!call.Output.IsJson) call.Output.Next(NextCommand.Of("catalogue build", "CARDS", "OUT", "--keys", named));
            return ExitCodes.AllAsAsked;
        });
        return command;
    }

    private static HelpedCommand CreateKeyList()
    {
        var folder = Folder();
        var passphrase = KeyOptions.PassphraseOption();
        var command = new HelpedCommand("list", "List keys", new CommandHelp(
            "Lists the keys of a folder with their ids, by which they are named in what they sign.",
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
            var secret = KeyOptions.Passphrase(parsed, passphrase, call);
            var there = KeyRing.Names.Where(key => File.Exists(ring.PathOf(key))).ToList();
            if (there.Count == 0)
                throw new Problem(
                    ProblemCode.NothingMatched, $"{parsed.GetValue(folder)} holds no keys",
                    remedy: NextCommand.Of("catalogue keys new", parsed.GetValue(folder)!)).ToException();
            CatalogueView.ShowKeys(call.Output, [.. there.Select(key => (key, KeyFile.Open(ring.PathOf(key), secret).Key))]);
            return ExitCodes.AllAsAsked;
        });
        return command;
    }

    private static HelpedCommand CreateRotate()
    {
        var (target, passphrase) = (Published(), KeyOptions.PassphraseOption());
        var role = new DeclaredOption<string>(OptionGroup.Selection, "--role")
        {
            Description = "The key to replace: root, targets or online", HelpName = "KEY", Required = true,
        };
        var folder = new DeclaredOption<string>(OptionGroup.Files, "--keys")
        {
            Description = "The folder of the keys; the old one is kept as KEY.old.pem", HelpName = "FOLDER", Required = true,
            Completion = Completion.Folder,
        };
        var command = new HelpedCommand("rotate", "Replace a key", new CommandHelp(
            "Makes a new key in place of one, after a loss or a theft or when its time has come. The next root names it, signed "
                + "by the old root key and the new one: machines that trust the catalogue follow by themselves.",
            [2, 3, 4, 5, 7],
            [
                ("acrate catalogue keys rotate site --role online --keys keys", "replaces the key on the web server"),
                ("acrate catalogue keys rotate site --role root --keys keys", "replaces the root key"),
            ]))
        { target, role, folder, passphrase };
        command.SetAction(parsed =>
        {
            using var call = new Call(parsed);
            var (named, key) = (parsed.GetValue(target)!, parsed.GetValue(role)!);
            if (!KeyRing.Names.Contains(key))
                throw new Problem(
                    ProblemCode.BadCommandLine, $"--role takes root, targets or online, not \"{key}\"").ToException();
            var done = new KeyRotation(
                call.Host.FullPath(named), call.Host.FullPath(parsed.GetValue(folder)!),
                KeyOptions.Passphrase(parsed, passphrase, call), call.Host.Clock).Run(key);
            CatalogueView.ShowSigned(call.Output, named, done);
            return ExitCodes.AllAsAsked;
        });
        return command;
    }

    private static ProblemException Misuse(string what) => new Problem(ProblemCode.BadCommandLine, what).ToException();

    private static DeclaredArgument<string> Folder() =>
        new("KEYS-DIR", Completion.Folder) { Description = "The folder of the keys" };

    private static DeclaredArgument<string> Published() =>
        new("OUT-DIR", Completion.Folder) { Description = "The published folder" };
}
