using AmberCrate.Core.Trials;

namespace AmberCrate.Core.Tests.Drafting;

/// <summary>What acrate reports of a program that it started once.</summary>
public sealed class StartTrialTests
{
    private const string Missing = "scrim: error while loading shared libraries: libgauze.so.2: cannot open shared object file";

    [Theory]
    [InlineData(true, "Scrim Paint", null, "", "Window opened the window \"Scrim Paint\"")]
    [InlineData(true, "", null, "", "Window opened a window")]
    [InlineData(true, "Scrim", null, "Traceback (most recent call last):",
        "Window opened the window \"Scrim\", and wrote: Traceback (most recent call last):")]
    [InlineData(true, null, null, "", "NoWindow no window after 15 s")]
    [InlineData(true, null, null, "could not open /usr/share/scrim",
        "NoWindow no window after 15 s; it wrote: could not open /usr/share/scrim")]
    [InlineData(false, null, null, "", "Ended still running after 15 s")]
    [InlineData(true, null, 127, Missing, "Failed ended with 127: " + Missing)]
    [InlineData(false, null, 127, Missing, "Failed ended with 127: " + Missing)]
    [InlineData(false, null, 1, "ModuleNotFoundError: No module named 'gauze'",
        "Failed ended with 1: ModuleNotFoundError: No module named 'gauze'")]
    [InlineData(false, null, 2, "usage: hem FILE", "Ended ended with 2: usage: hem FILE")]
    [InlineData(false, null, 0, "hem 1.0", "Ended ended with 0")]
    [InlineData(true, null, 0, "", "Ended ended with 0")]
    [InlineData(true, null, 1, "cannot do it", "Failed ended with 1: cannot do it")]
    [InlineData(false, null, 139, "", "Failed was ended by signal 11")]
    public void A_start_is_judged_by_what_was_seen(bool isWindowExpected, string? title, int? code, string line, string expected)
    {
        var seen = new TrialSight(title, code, 15, line.Length > 0 ? [line] : []);
        var result = StartTrialResult.Judge("menu entry scrim", isWindowExpected, seen);
        $"{result.Outcome} {result.Words}".ShouldBe(expected);
    }

    [Fact]
    public void A_long_title_is_cut() =>
        StartTrialResult.Judge("x", true, new TrialSight(new string('a', 500), null, 1, [])).Words.Length.ShouldBeLessThan(100);
}
