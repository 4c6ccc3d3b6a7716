using System.Diagnostics;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Schedules;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Installers;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Timers;
using AmberCrate.Tests;

namespace AmberCrate.Engine.Tests.Schedules;

public sealed class TimerUnitsTests : IDisposable
{
    private readonly TemporaryFolder _folder = new();

    [Theory]
    [InlineData(ScheduledTask.Upgrade, "Mon..Fri 22:30")]
    [InlineData(ScheduledTask.Due, "hourly")]
    [InlineData(ScheduledTask.Refresh, "*-*-01 05:00")]
    public void What_is_written_passes_the_systems_own_verification(ScheduledTask task, string at)
    {
        if (!File.Exists("/usr/bin/systemd-analyze")) Assert.Skip("this system has no systemd-analyze");
        var units = Units("/bin/true");
        units.Set(new Schedule(task, at) { DelayMinutes = 30 }, _ => { });
        units.FilesOf(task).ShouldAllBe(file => File.Exists(file));
        var (code, text) = Run("/usr/bin/systemd-analyze", ["verify", "--user", "--man=no", .. units.FilesOf(task)]);
        (code, text).ShouldBe((0, ""));
        units.Clear(task, _ => { });
        units.FilesOf(task).ShouldAllBe(file => !File.Exists(file));
    }

    [Fact]
    public void A_program_whose_path_has_blanks_and_signs_is_one_word_to_systemd()
    {
        var units = Units("/opt/a b/50% \"acrate\" $HOME");
        units.Set(new Schedule(ScheduledTask.Due, "daily"), _ => { });
        File.ReadAllText(units.FilesOf(ScheduledTask.Due)[1])
            .ShouldContain("ExecStart=\"/opt/a b/50%% \\\"acrate\\\" $$HOME\" schedule run due\n");
    }

    [Theory]
    [InlineData("printf 'MAILTO=x\\n\\n0 5 * * * mine\\n'", "MAILTO=x\n\n0 5 * * * mine\n0 3 * * * acrate # ours\n")]
    [InlineData("printf '0 1 * * * old # ours\\n0 5 * * * mine\\n'", "0 5 * * * mine\n0 3 * * * acrate # ours\n")]
    [InlineData("echo 'no crontab for mara' >&2; exit 1", "0 3 * * * acrate # ours\n")]
    [InlineData("echo 'you (mara) are not allowed to use this program (crontab)' >&2; exit 1", null)]
    [InlineData("printf '0 5 * * * mine\\n'; exit 1", null)]
    [InlineData("kill -9 $$", null)]
    public void A_line_is_put_into_a_table_of_cron_only_where_the_others_can_be_read(string shows, string? expected)
    {
        var (program, written) = (_folder["crontab"], _folder["written"]);
        File.WriteAllText(program, $"#!/bin/sh\nif [ \"$1\" = -l ]; then {shows}\nelse cat \"$1\" > '{written}'\nfi\n");
        File.SetUnixFileMode(program, UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute);
        var table = new CronTable(program);
        if (expected is null)
            Should.Throw<ProblemException>(() => table.Set("# ours", "0 3 * * * acrate")).Problem.Code
                .ShouldBe(ProblemCode.StateNeedsAttention);
        else table.Set("# ours", "0 3 * * * acrate");
        (File.Exists(written) ? File.ReadAllText(written) : null).ShouldBe(expected);
    }

    [Theory]
    [InlineData("daily\n[Service]\nExecStart=/bin/sh")]
    [InlineData("%H:00")]
    [InlineData("someday")]
    public void A_time_that_is_none_is_refused_and_nothing_is_written(string at)
    {
        if (!File.Exists("/usr/bin/systemd-analyze")) Assert.Skip("this system has no systemd-analyze");
        var units = Units("/bin/true");
        Should.Throw<ProblemException>(() => units.Set(new Schedule(ScheduledTask.Due, at), _ => { }))
            .Problem.Code.ShouldBe(ProblemCode.BadCommandLine);
        units.FilesOf(ScheduledTask.Due).ShouldAllBe(file => !File.Exists(file));
    }

    [Fact]
    public void Schedules_are_the_same_once_they_were_in_their_file()
    {
        var file = new ScheduleFile(MachineLayout.Under(_folder.Path));
        file.Read().ShouldBeEmpty();
        MaintenanceWindow.TryParse("22:00-05:00", out var window).ShouldBeTrue();
        ScheduleEntry[] entries =
        [
            new(new Schedule(ScheduledTask.Due, "hourly") { Metrics = "/a/b.prom", Notifies = true }),
            new(new Schedule(ScheduledTask.Upgrade, "daily")
            {
                DelayMinutes = 5, Window = window, IsSecurityOnly = true, WaitMinutes = 7,
            })
            { LastRun = DateTimeOffset.UnixEpoch, LastOutcome = "run 1: done cue-ledger 1.6.0" },
        ];
        file.Write(entries);
        file.Read().Select(entry => entry with { Places = [] }).ShouldBe(entries.Select(entry => entry with { Places = [] }));
        File.WriteAllText(Path.Combine(MachineLayout.Under(_folder.Path).StateFolder, "schedules.json"), "{");
        Should.Throw<ProblemException>(() => file.Read()).Problem.Code.ShouldBe(ProblemCode.StateNeedsAttention);
    }

    [Fact]
    public void A_program_that_others_can_change_is_known()
    {
        if (!Environment.IsPrivilegedProcess) Assert.Skip("it takes root to have files of root");
        RootOnlyPath.ChangeableIn("/bin/sh").ShouldBeNull();
        File.WriteAllText(_folder["acrate"], "");
        RootOnlyPath.ChangeableIn(_folder["acrate"]).ShouldBe("/tmp");
    }

    [Theory]
    [InlineData("plain\r\n\tüber", "plain\r\n\tüber")]
    [InlineData("\u001b]0;title\u0007", "?]0;title\u0007")]
    [InlineData("\u001b[2J", "?[2J")]
    [InlineData("a\u009b31mb", "a\ufffd31mb")]
    public void No_escape_sequence_of_a_foreign_program_reaches_the_terminal(string written, string shown)
    {
        var text = new TerminalText();
        var bytes = System.Text.Encoding.UTF8.GetBytes(written);
        var tamed = bytes.SelectMany(one => text.Tame([one])).ToArray();
        System.Text.Encoding.UTF8.GetString(tamed).Replace("\ufffd?", "\ufffd", StringComparison.Ordinal).ShouldBe(shown);
    }

    public void Dispose() => _folder.Dispose();

    private TimerUnits Units(string program) => new(MachineLayout.Under(_folder.Path), [program], isHome: false);

    private static (int Code, string Text) Run(string program, string[] arguments)
    {
        using var process = Process.Start(new ProcessStartInfo(program, arguments)
        {
            RedirectStandardOutput = true, RedirectStandardError = true, UseShellExecute = false,
            Environment = { ["XDG_RUNTIME_DIR"] = Path.GetTempPath() },
        })!;
        var text = process.ReadOutput() + process.ReadErrorsAsync().GetAwaiter().GetResult();
        process.EndInTime();
        return (process.ExitCode, text);
    }
}
