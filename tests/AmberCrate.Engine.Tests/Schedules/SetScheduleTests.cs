using AmberCrate.Core.Problems;
using AmberCrate.Core.Schedules;
using AmberCrate.Engine.Scheduling;

namespace AmberCrate.Engine.Tests.Schedules;

/// <summary>What a schedule command that was cut off leaves: files and settings that do not agree.</summary>
public sealed class SetScheduleTests : IDisposable
{
    private readonly OperationStage _stage = new();

    private SetSchedule Command => new(_stage.Session());

    [Theory]
    [InlineData(true, true)]
    [InlineData(true, false)]
    [InlineData(false, true)]
    [InlineData(false, false)]
    public void What_is_shown_is_what_the_system_has_and_clear_removes_all_of_it(bool hasTimer, bool hasSettings)
    {
        var set = Command.Set(new Schedule(ScheduledTask.Upgrade, "Mon..Fri 22:30") { DelayMinutes = 20 }).ShouldHaveSingleItem();
        (set.HasTimer, set.HasSettings, set.Places.Count).ShouldBe((true, true, 2));
        if (!hasTimer) File.Delete(set.Places[0]);
        if (!hasSettings) File.Delete(Settings());
        if (!hasTimer && !hasSettings)
        {
            Command.Show().ShouldBeEmpty();
            Should.Throw<ProblemException>(() => Command.Clear(null)).Problem.Code.ShouldBe(ProblemCode.NothingMatched);
            return;
        }

        var shown = Command.Show().ShouldHaveSingleItem();
        (shown.HasTimer, shown.HasSettings, shown.Places.Count > 0).ShouldBe((hasTimer, hasSettings, hasTimer));
        (shown.Schedule.Task, shown.Schedule.At, shown.Schedule.DelayMinutes).ShouldBe(
            (ScheduledTask.Upgrade, "Mon..Fri 22:30", 20));
        Command.Clear(ScheduledTask.Upgrade).ShouldBeEmpty();
        set.Places.ShouldAllBe(file => !File.Exists(file));
        Command.Show().ShouldBeEmpty();
    }

    [Fact]
    public void A_timer_that_cannot_be_written_leaves_the_settings_as_they_were()
    {
        var before = Command.Set(new Schedule(ScheduledTask.Refresh, "daily"));
        var units = Path.GetDirectoryName(before[0].Places[0])!;
        Directory.CreateDirectory(Path.Combine(units, "acrate-upgrade.service", "in the way"));
        Should.Throw<Exception>(() => Command.Set(new Schedule(ScheduledTask.Upgrade, "daily")));
        Command.Show().Select(entry => entry.Schedule.Task).ShouldBe([ScheduledTask.Refresh]);
    }

    public void Dispose() => _stage.Dispose();

    private string Settings() =>
        Directory.EnumerateFiles(_stage["root"], "schedules.json", SearchOption.AllDirectories).ShouldHaveSingleItem();
}
