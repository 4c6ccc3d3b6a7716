using AmberCrate.Core.Catalogues;

namespace AmberCrate.Core.Tests.Catalogues;

public sealed class DataAgeTests
{
    private static readonly DateTimeOffset Now = new(2026, 9, 1, 12, 0, 0, TimeSpan.Zero);

    [Theory]
    [InlineData(0, false, false)]
    [InlineData(59, false, false)]
    [InlineData(61, true, false)]
    [InlineData(60 * 24 * 365, true, false)]
    [InlineData(-4, false, false)]
    [InlineData(-6, true, true)]
    [InlineData(-60 * 24 * 365, true, true)]
    public void What_is_still_to_come_is_taken_for_long_ago(int minutesAgo, bool isOver, bool isAhead)
    {
        var since = Now - TimeSpan.FromMinutes(minutesAgo);
        (DataAge.IsOver(since, TimeSpan.FromHours(1), Now), DataAge.IsAhead(since, Now)).ShouldBe((isOver, isAhead));
    }
}
