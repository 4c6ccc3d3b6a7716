using AmberCrate.Core.Schedules;

namespace AmberCrate.Core.Tests.Schedules;

public sealed class ScheduleTests
{
    [Theory]
    [InlineData("daily", "0 0 * * *")]
    [InlineData("hourly", "0 * * * *")]
    [InlineData("Weekly", "0 0 * * 1")]
    [InlineData("03:30", "30 3 * * *")]
    [InlineData("03:30:00", "30 3 * * *")]
    [InlineData("Mon..Fri 03:30", "30 3 * * 1-5")]
    [InlineData("Mon,Thu 22:00", "0 22 * * 1,4")]
    [InlineData("Sat..Sun 09:05", "5 9 * * 6-7")]
    [InlineData("*-*-01 05:00", "0 5 1 * *")]
    [InlineData("*-01,07-15 00:10", "10 0 15 1,7 *")]
    [InlineData("*-*-* *:15", "15 * * * *")]
    [InlineData("Sun..Mon 03:00", "0 3 * * 0-1")]
    [InlineData("Fri..Mon 03:00", null)]
    [InlineData("Mon *-*-01 03:00", null)]
    [InlineData("Mon *-02-* 03:00", "0 3 * 2 1")]
    [InlineData("2027-01-01 03:00", null)]
    [InlineData("03:30:15", null)]
    [InlineData("*:0/15", null)]
    [InlineData("25:00", null)]
    [InlineData("soon", null)]
    [InlineData("03:30 UTC", null)]
    public void A_calendar_expression_is_said_to_cron_where_that_can_be_said(string expression, string? fields) =>
        CronLine.Translate(expression).ShouldBe(fields);

    [Theory]
    [InlineData("22:00-05:00", "23:30", true, 330)]
    [InlineData("22:00-05:00", "04:59", true, 1)]
    [InlineData("22:00-05:00", "05:00", false, 0)]
    [InlineData("22:00-05:00", "12:00", false, 0)]
    [InlineData("09:00-17:00", "09:00", true, 480)]
    public void A_window_holds_a_time_and_tells_what_is_left_of_it(string text, string time, bool holds, int minutes)
    {
        MaintenanceWindow.TryParse(text, out var window).ShouldBeTrue();
        window!.ToString().ShouldBe(text);
        var at = TimeOnly.ParseExact(time, "HH:mm");
        window.Holds(at).ShouldBe(holds);
        if (holds) window.LeftAt(at).TotalMinutes.ShouldBe(minutes);
    }

    [Theory]
    [InlineData("")]
    [InlineData("22:00")]
    [InlineData("22-05")]
    [InlineData("05:00-05:00")]
    [InlineData("24:00-05:00")]
    public void What_is_no_window_is_refused(string text) => MaintenanceWindow.TryParse(text, out _).ShouldBeFalse();
}
