using System.CommandLine;
using AmberCrate.Cli.CommandLine;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;
using AmberCrate.Engine.Publishing;

namespace AmberCrate.Cli.Publishing;

/// <summary>What <c>acrate catalogue</c> has to do with signatures.</summary>
internal static class CatalogueTrustCommands
{
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
            PublishingView.ShowSigned(
                call.Output, folder, new RenewCatalogue(call.Host).Run(call.Host.FullPath(folder), keys.Require(parsed, call)));
            return ExitCodes.AllAsAsked;
        });
        return command;
    }

    /// <summary><c>acrate catalogue sign</c>.</summary>
    public static Command CreateSign()
    {
        var target = Published();
        var command = new HelpedCommand("sign", "Sign what waits for your signature", new CommandHelp(
            "Where several maintainers must sign, a publication waits in the folder until enough have. This shows what would "
                + "change, asks you, and adds your signature; the last one publishes it.",
            [3, 4, 5, 8],
            [
                ("acrate catalogue sign site --keys my-keys", "looks at it, and signs it"),
                ("acrate catalogue sign site --keys my-keys --yes", "signs it without asking"),
            ]))
        { target, CommonOptions.Yes };
        var keys = new KeyOptions(command);
        command.SetAction((parsed, cancel) =>
        {
            using var call = new Call(parsed);
            var folder = parsed.GetValue(target)!;
            var done = new SignWaitingRoles(call.Session).Run(
                call.Host.FullPath(folder), keys.Require(parsed, call), parsed.GetValue(CommonOptions.Yes),
                changes => PublishingView.ShowPrepared(call.Output, changes), cancel);
            if (done is null) return Task.FromResult(ExitCodes.ForProblem(ProblemCode.Interrupted));
            PublishingView.ShowSigned(call.Output, folder, done);
            return Task.FromResult(ExitCodes.AllAsAsked);
        });
        return command;
    }

    /// <summary><c>acrate catalogue delegate</c>.</summary>
    public static Command CreateDelegate()
    {
        var target = Published();
        var name = new DeclaredArgument<string>("NAME", Completion.None) { Description = "What to call them here" };
        var key = new DeclaredOption<string>(OptionGroup.Files, "--key")
        {
            Description = "Their public key, such as targets.public.pem", HelpName = "FILE", Completion = Completion.File,
        };
        var apps = new DeclaredOption<string[]>(OptionGroup.Selection, "--apps")
        {
            Description = "The apps that they sign, such as dimmer-*; may be given several times", HelpName = "PATTERN",
        };
        var end = new DeclaredOption<bool>(OptionGroup.Selection, "--end") { Description = "Take their apps back" };
        var command = new HelpedCommand("delegate", "Leave apps to another maintainer", new CommandHelp(
            "Lets another maintainer publish some apps under a key of their own: catalogue build --as NAME. Their key is good "
                + "for these apps alone; an app of the catalogue itself goes before theirs.",
            [3, 4, 5, 8],
            [
                ("acrate catalogue delegate site lights --key b.pem --apps \"dimmer-*\" --keys k", "leaves apps to them"),
                ("acrate catalogue delegate site lights --end --keys k", "takes them back"),
            ]))
        { target, name, key, apps, end };
        return CatalogueKeyCommands.Changing(command, target, (change, parsed) =>
            parsed.GetValue(end) ? change.TakeBack(parsed.GetValue(name)!)
                : parsed.GetValue(key) is not { } file ? throw Misuse("--key is missing")
                : change.Delegate(parsed.GetValue(name)!, file, parsed.GetValue(apps) ?? []));
    }

    /// <summary><c>acrate catalogue mirror</c>.</summary>
    public static Command CreateMirror()
    {
        var name = new DeclaredArgument<string>("NAME", Completion.Catalogue) { Description = "The catalogue, which is signed" };
        var folder = new DeclaredArgument<string>("OUT-DIR", Completion.Folder) { Description = "The folder of the copy" };
        var artifacts = new DeclaredOption<bool>(OptionGroup.Files, "--with-artifacts")
        {
            Description = "Copy the artifacts beside the catalogue too",
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
            [3, 4, 5, 6, 8],
            [
                ("acrate catalogue mirror guild /srv/guild --with-artifacts", "all of it"),
                ("acrate catalogue mirror guild stick --with-artifacts --only scrim-paint", "the artifacts of one app"),
            ]))
        { name, folder, artifacts, only, line, platform };
        command.SetAction(async (parsed, cancel) =>
        {
            using var call = new Call(parsed);
            var request = new MirrorRequest(SharedArguments.ReadCatalogue(parsed.GetValue(name)!), parsed.GetValue(folder)!)
            {
                WithArtifacts = parsed.GetValue(artifacts), Apps = parsed.GetValue(only) ?? [],
                Line = parsed.GetValue(line) is not { } text ? null
                    : ReleaseLine.TryParse(text, out var wanted) ? wanted
                    : throw Misuse($"--line takes {ReleaseLine.Expected}, not \"{text}\""),
                Platform = parsed.GetValue(platform) is not { } machine ? null
                    : Platform.TryParse(machine, out var on) ? on
                    : throw Misuse($"--platform takes {Platform.Expected}, not \"{machine}\""),
            };
            PublishingView.ShowMirrored(call.Output, await new MirrorCatalogue(call.Session).RunAsync(request, cancel));
            return ExitCodes.AllAsAsked;
        });
        return command;
    }

    private static ProblemException Misuse(string what) => new Problem(ProblemCode.BadCommandLine, what).ToException();

    /// <summary>The argument that names the published folder.</summary>
    public static DeclaredArgument<string> Published() =>
        new("OUT-DIR", Completion.Folder) { Description = "The published folder" };
}
