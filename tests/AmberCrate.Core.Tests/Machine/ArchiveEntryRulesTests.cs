using AmberCrate.Core.Machine;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Tests.Machine;

public sealed class ArchiveEntryRulesTests
{
    [Theory]
    [InlineData("a/b", 0, "a/b")]
    [InlineData("./a//b/", 0, "a/b")]
    [InlineData("top/a", 1, "a")]
    [InlineData("top/", 1, null)]
    [InlineData("./", 0, null)]
    [InlineData("a/..b", 0, "a/..b")]
    public void Entries_go_inside(string name, int strip, string? expected) =>
        new ArchiveEntryRules(strip).Place(name)?.Text.ShouldBe(expected);

    [Theory]
    [InlineData("/etc/passwd", "absolute name")]
    [InlineData("../a", "climbs out")]
    [InlineData("a/../../b", "climbs out")]
    [InlineData("a/..", "climbs out")]
    [InlineData("a\nb", "not a path")]
    public void Entries_that_leave_are_refused(string name, string says) =>
        Should.Throw<RefusedEntryException>(() => new ArchiveEntryRules(0).Place(name)).Message.ShouldContain(says);

    [Theory]
    [InlineData("bin/tool", "../lib/tool")]
    [InlineData("lib/a.so", "a.so.1")]
    [InlineData("a", "b/c/d")]
    [InlineData("a/b/c", "../..")]
    public void Links_may_lead_inside(string path, string target) =>
        new ArchiveEntryRules(0).AddLink(InsidePath.Parse(path), target);

    [Theory]
    [InlineData("a", "..")]
    [InlineData("a/b", "../../c")]
    [InlineData("a", "/etc/passwd")]
    [InlineData("a", "b/../../c")]
    [InlineData("a/b", "x/..")]
    [InlineData("a", "")]
    public void Links_that_leave_or_might_are_refused(string path, string target) =>
        Should.Throw<RefusedEntryException>(() => new ArchiveEntryRules(0).AddLink(InsidePath.Parse(path), target)).Message
            .ShouldContain("a link that leaves its folder");

    [Fact]
    public void Nothing_goes_through_a_link_or_below_a_file()
    {
        var rules = new ArchiveEntryRules(0);
        rules.AddLink(InsidePath.Parse("out"), "in");
        rules.AddFile(InsidePath.Parse("file"));
        Should.Throw<RefusedEntryException>(() => rules.Place("out/a")).Message.ShouldContain("leads through a link");
        Should.Throw<RefusedEntryException>(() => rules.Place("file/a")).Message.ShouldContain("below a file");
    }

    [Fact]
    public void A_place_is_taken_once()
    {
        var rules = new ArchiveEntryRules(0);
        var path = InsidePath.Parse("a");
        rules.AddFile(path);
        Should.Throw<RefusedEntryException>(() => rules.AddFile(path)).Message.ShouldContain("same place");
        Should.Throw<RefusedEntryException>(() => rules.AddLink(path, "b")).Message.ShouldContain("same place");
        Should.Throw<RefusedEntryException>(() => rules.AddFolder(path)).Message.ShouldContain("same place");
    }

    [Fact]
    public void A_later_file_knows_what_an_earlier_one_has_put_there()
    {
        var there = new UnpackedPaths();
        var earlier = new ArchiveEntryRules(0, before: there);
        earlier.AddLink(InsidePath.Parse("out"), "in");
        earlier.AddFile(InsidePath.Parse("file"));
        var later = new ArchiveEntryRules(1, isWholeSystem: true, there);
        Should.Throw<RefusedEntryException>(() => later.Place("top/out/a")).Message.ShouldContain("leads through a link");
        Should.Throw<RefusedEntryException>(() => later.Place("top/file/a")).Message.ShouldContain("below a file");
        Should.Throw<RefusedEntryException>(() => later.AddFile(InsidePath.Parse("file"))).Message.ShouldContain("same place");
        Should.Throw<RefusedEntryException>(() => later.AddFile(InsidePath.Parse("out"))).Message.ShouldContain("same place");
        later.AddFolder(InsidePath.Parse("in"));
    }

    [Fact]
    public void A_hard_link_repeats_a_file_that_came_before()
    {
        var rules = new ArchiveEntryRules(1);
        rules.AddFile(InsidePath.Parse("a"));
        rules.PlaceHardLinkTarget(InsidePath.Parse("b"), "top/a").Text.ShouldBe("a");
        foreach (var target in new[] { "top/c", "/etc/passwd", "../a", "top" })
            Should.Throw<RefusedEntryException>(() => rules.PlaceHardLinkTarget(InsidePath.Parse("b"), target));
    }
}
