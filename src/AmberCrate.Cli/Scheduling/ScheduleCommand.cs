using System.CommandLine;
using System.Globalization;
using AmberCrate.Cli.CommandLine;
using AmberCrate.Core.Bundles;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Schedules;
using AmberCrate.Engine.Runs;
using AmberCrate.Engine.Scheduling;

namespace AmberCrate.Cli.Scheduling;

/// <summary><c>acrate schedule</c>.</summary>
internal static class ScheduleCommand
{
    private const int MostMinutes = 24 * 60;

    public static Command Create(CancellationToken now) => new HelpedCommand(
        "schedule", "Do things on a timer", new CommandHelp("Sets timers of the system that look at what is due, upgrade, or "
            + "refresh catalogues, with nobody at the keyboard.", [], []))
    {
        CreateSet(), CreateShow(), CreateClear(), CreateRun(now),
    };

    private static DeclaredArgument<string> Task(ArgumentArity arity, string description) =>
        new("TASK", Completion.None) { Description = description, Arity = arity };

    private static HelpedCommand CreateSet()
    {
        var tasks = string.Join(", ", TaskWords.Tasks.Pairs.Select(pair => pair.Word));
        var task = Task(ArgumentArity.ExactlyOne, $"What is done: {tasks}");
        var at = new DeclaredOption<string>(OptionGroup.Waiting, "--at")
        {
            Description = "When, such as daily, Mon..Fri 03:30 or *-*-01 05:00", HelpName = "TIME", Required = true,
        };
        var delay = Delay();
        var window = Window();
        var metrics = Metrics();
        var security = new DeclaredOption<bool>(OptionGroup.Selection, "--security-only")
        {
            Description = "Upgrade only apps that have a security fix due",
        };
        var notify = Notify();
        var what = What();
        var keys = new DeclaredOption<string>(OptionGroup.Files, "--keys")
        {
            Description = "For renew: the folder of the online key", HelpName = "FOLDER", Completion = Completion.Folder,
        };
        var passphrase = KeyOptions.PassphraseOption();
        var others = new DeclaredOption<bool>(OptionGroup.Selection, "--uninstall-others")
        {
            Description = "For equip: uninstall apps that the bundle does not list",
        };
        var upgrade = Upgrades();
        var command = new HelpedCommand("set", "Put a task on a timer", new CommandHelp(
            "Writes a timer of systemd, or a line of cron where that is missing. Each run notes how it ended and prints one "
                + "line. TIME is a calendar expression of systemd.",
            [4, 7, 8, 9],
            [
                ("acrate schedule set upgrade --at \"Mon..Fri 22:30\" --window 22:00-05:00", "at night"),
                ("acrate schedule set equip guild:paintframe --at hourly", "keeps this machine to a bundle"),
            ]))
        { task, what, others, upgrade, keys, passphrase, at, delay, window, metrics, security, CommonOptions.WaitClosed, notify };
        command.SetAction(parsed =>
        {
            using var call = new Call(parsed);
            var wanted = ReadTask(parsed.GetValue(task)!);
            var (folder, keyFolder) = ReadPublished(wanted, parsed.GetValue(what), parsed.GetValue(keys));
            ScheduleView.Show(call.Output, new SetSchedule(call.Session).Set(
                new Schedule(wanted, parsed.GetValue(at)!)
                {
                    Bundle = ReadBundle(
                        wanted, folder is null ? parsed.GetValue(what) : null,
                        parsed.GetValue(others) || parsed.GetValue(upgrade)),
                    Published = folder is null ? null : call.Host.FullPath(folder),
                    Keys = keyFolder is null ? null : call.Host.FullPath(keyFolder),
                    PassphraseFile = parsed.GetValue(passphrase) is { } secret ? call.Host.FullPath(secret) : null,
                    UninstallsOthers = parsed.GetValue(others), Upgrades = parsed.GetValue(upgrade),
                    DelayMinutes = Minutes("--delay", parsed.GetValue(delay)) ?? 30, Window = ReadWindow(parsed.GetValue(window)),
                    Metrics = parsed.GetValue(metrics) is { } file ? call.Host.FullPath(file) : null,
                    Notifies = parsed.GetValue(notify), IsSecurityOnly = parsed.GetValue(security),
                    WaitMinutes = Minutes("--wait-closed", parsed.GetValue(CommonOptions.WaitClosed)) ?? 0,
                }));
            return ExitCodes.AllAsAsked;
        });
        return command;
    }

    private static DeclaredOption<bool> Notify() => new(OptionGroup.Output, "--notify")
    {
        Description = "Tell whoever is signed in on the desktop what happened",
    };

    private static DeclaredOption<bool> Upgrades() => new(OptionGroup.Selection, "--upgrade")
    {
        Description = "For equip: also upgrade apps that the bundle lists without a version",
    };

    private static DeclaredOption<string> Metrics() => new DeclaredOption<string>(OptionGroup.Output, "--metrics")
    {
        Description = "Also write metrics for a node exporter into FILE", HelpName = "FILE", Completion = Completion.File,
    };

    private static DeclaredArgument<string> What() => new DeclaredArgument<string>("WHAT", Completion.None)
    {
        Description = "For equip: the bundle, CATALOGUE:BUNDLE or an https: address. For renew: the published folder",
        Arity = ArgumentArity.ZeroOrOne,
    };

    private static DeclaredOption<string> Window() => new DeclaredOption<string>(OptionGroup.Waiting, "--window")
    {
        Description = "Run only in this time of the day, and stop at its end, such as 22:00-05:00", HelpName = "FROM-TO",
    };

    private static DeclaredOption<string> Delay() => new DeclaredOption<string>(OptionGroup.Waiting, "--delay")
    {
        Description = "Wait up to MINUTES longer, different on each machine; 30 unless set", HelpName = "MINUTES",
    };

    private static HelpedCommand CreateShow()
    {
        var command = new HelpedCommand("show", "What is on a timer, and how it ended last", new CommandHelp(
            "Lists the tasks on a timer: when each runs next, and how its last run ended.",
            [7, 9],
            [
                ("acrate schedule show", "your own timers"),
                ("acrate schedule show --all-users --json", "the machine's, as JSON"),
            ]));
        command.SetAction(parsed =>
        {
            using var call = new Call(parsed);
            ScheduleView.Show(call.Output, new SetSchedule(call.Session).Show());
            return ExitCodes.AllAsAsked;
        });
        return command;
    }

    private static HelpedCommand CreateClear()
    {
        var task = Task(ArgumentArity.ZeroOrOne, "The task; default: all");
        var command = new HelpedCommand("clear", "Take a task off its timer", new CommandHelp(
            "Stops a timer and removes what schedule set has written.",
            [3, 7, 8, 9],
            [
                ("acrate schedule clear upgrade", "no more upgrades on a timer"),
                ("acrate schedule clear", "takes everything off its timer"),
            ]))
        { task };
        command.SetAction(parsed =>
        {
            using var call = new Call(parsed);
            ScheduleView.Show(
                call.Output, new SetSchedule(call.Session).Clear(parsed.GetValue(task) is { } name ? ReadTask(name) : null));
            return ExitCodes.AllAsAsked;
        });
        return command;
    }

    private static HelpedCommand CreateRun(CancellationToken now)
    {
        var task = Task(ArgumentArity.ExactlyOne, "The task");
        var command = new HelpedCommand("run", "Do a task as its timer does", new CommandHelp(
            "What the timers call. It keeps to the maintenance window, notes how it ended, and prints one line.",
            [1, 3, 5, 6, 7, 8, 9, 130],
            [
                ("acrate schedule run upgrade", "tries a timer without waiting for it"),
                ("acrate schedule run due --root /mnt/image", "the same for another root"),
            ]))
        { task };
        command.SetAction(async (parsed, cancel) =>
        {
            using var call = new Call(parsed, isSilent: true);
            var result = await new RunScheduled(call.Session).RunAsync(ReadTask(parsed.GetValue(task)!), new RunSignals(cancel,
                now));
            ScheduleView.ShowRun(call.Output, result);
            return result.Report is { } report ? ExitCodes.ForReport(report) : result.IsFailed ? ExitCodes.SomeFailed
                : ExitCodes.AllAsAsked;
        });
        return command;
    }

    private static ScheduledTask ReadTask(string text) => TaskWords.Tasks.TryRead(text, out var task) ? task
        : throw new Problem(
            ProblemCode.BadCommandLine, $"\"{text}\" cannot be put on a timer", $"expected {TaskWords.Tasks.Expected}")
                .ToException();

    /// <summary>Reads the bundle of the task equip: one that nobody on the way, and no other user, can change.</summary>
    private static string? ReadBundle(ScheduledTask task, string? text, bool othersToo)
    {
        if (task != ScheduledTask.Equip)
            return text is null && !othersToo ? null : throw new Problem(
                ProblemCode.BadCommandLine, "a bundle, --uninstall-others and --upgrade go with equip only",
                remedy: NextCommand.HelpOf("schedule set")).ToException();
        if (text is null)
            throw new Problem(
                ProblemCode.BadCommandLine, "no bundle is named", remedy: NextCommand.Create("schedule set", "equip", "BUNDLE"))
                    .ToException();
        var isSafe = BundlePlace.InCatalogue(text) is not null || (BundlePlace.IsAddress(text)
            && Uri.TryCreate(text, UriKind.Absolute, out var address) && address.UserInfo.Length == 0
            && (address.Scheme == Uri.UriSchemeHttps || address.IsLoopback));
        return isSafe ? text : throw new Problem(
            ProblemCode.BadCommandLine, $"\"{text}\" cannot be put on a timer",
            "expected CATALOGUE:BUNDLE, or an https: address: over http anybody on the way could change it").ToException();
    }

    /// <summary>Reads what the task renew takes: the published folder, and that of its keys.</summary>
    private static (string? Folder, string? Keys) ReadPublished(ScheduledTask task, string? folder, string? keys)
    {
        if (task != ScheduledTask.Renew)
            return keys is null ? (null, null) : throw new Problem(
                ProblemCode.BadCommandLine, "--keys goes with renew only", remedy: NextCommand.HelpOf("schedule set"))
                .ToException();
        return folder is not null && keys is not null ? (folder, keys) : throw new Problem(
            ProblemCode.BadCommandLine, "renew needs the published folder, and --keys", remedy: NextCommand.Create(
                "schedule set", "renew", "OUT-DIR", "--keys", "FOLDER", "--at", "daily")).ToException();
    }

    private static MaintenanceWindow? ReadWindow(string? text) => text is null ? null
        : MaintenanceWindow.TryParse(text, out var window) ? window
        : throw new Problem(
            ProblemCode.BadCommandLine, $"--window \"{text}\" cannot be used", $"expected {MaintenanceWindow.Expected}")
                .ToException();

    private static int? Minutes(string option, string? text) => text is null ? null
        : int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var minutes) && minutes <= MostMinutes ? minutes
        : throw new Problem(
            ProblemCode.BadCommandLine, $"{option} \"{text}\" cannot be used", $"expected minutes from 0 to {MostMinutes}")
            .ToException();
}
