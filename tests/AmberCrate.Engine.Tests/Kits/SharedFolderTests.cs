using AmberCrate.Core.Problems;
using AmberCrate.Core.Versions;
using AmberCrate.Engine.Installing;
using AmberCrate.Engine.KitFiles;
using AmberCrate.Engine.Kits;
using AmberCrate.Engine.Listing;
using AmberCrate.Engine.Sessions;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Tests.Kits;

/// <summary>What another user puts where a kit or a root is: it is not taken up, not followed and not written to.</summary>
public sealed class SharedFolderTests : IAsyncLifetime
{
    private const uint Other = 23456;

    private readonly OperationStage _stage = new();

    private string Kit => _stage["frame.amberkit"];

    public async ValueTask InitializeAsync()
    {
        await _stage.AddGuildAsync();
        await File.WriteAllTextAsync(_stage["frame.bundle.toml"], "bundle = 1\n[[apps]]\nreference = \"guild:cue-ledger\"\n");
    }

    public ValueTask DisposeAsync()
    {
        _stage.Dispose();
        return ValueTask.CompletedTask;
    }

    [Fact]
    public async Task The_part_of_another_user_is_not_taken_up_and_the_kit_is_its_makers()
    {
        Assert.SkipUnless(Environment.IsPrivilegedProcess, "it takes root to have files of another user");
        await MakeAsync();
        var whole = await File.ReadAllBytesAsync(Kit);
        File.Move(Kit, Kit + ".part");
        Posix.ChangeOwner(Kit + ".part", Other, Other);
        using var theirs = File.Open(Kit + ".part", FileMode.Open, FileAccess.ReadWrite, FileShare.ReadWrite);
        (await MakeAsync()).Kept.ShouldBe(0);
        Posix.OwnerOf(Kit).ShouldBe(0u);
        theirs.Write("changed later"u8);
        theirs.Flush();
        (await File.ReadAllBytesAsync(Kit)).ShouldBe(whole);
    }

    [Fact]
    public async Task A_part_that_is_another_file_as_well_is_not_written_to()
    {
        await File.WriteAllTextAsync(_stage["precious"], "stays");
        Posix.Link(_stage["precious"], Kit + ".part");
        await MakeAsync();
        (await File.ReadAllTextAsync(_stage["precious"])).ShouldBe("stays");
    }

    [Fact]
    public async Task A_second_maker_of_the_same_kit_is_told_so()
    {
        using (var first = new SplitWriter(Kit, long.MaxValue))
        {
            first.Write("a"u8);
            (await Should.ThrowAsync<ProblemException>(MakeAsync)).Problem.Code.ShouldBe(ProblemCode.Locked);
        }

        await MakeAsync();
    }

    [Fact]
    public void Parts_of_an_older_kit_give_no_more_room_than_they_are_written_over()
    {
        File.WriteAllBytes(Kit + ".part", new byte[100]);
        File.WriteAllBytes(Kit + ".2.part", new byte[100]);
        SplitWriter.RoomOf(Kit, 60, 90).ShouldBe(90);
        SplitWriter.RoomOf(Kit, 60, 70).ShouldBe(70);
        SplitWriter.RoomOf(Kit, long.MaxValue, 70).ShouldBe(70);
        SplitWriter.RoomOf(Kit, long.MaxValue, 500).ShouldBe(100);
    }

    [Theory]
    [InlineData("folder")]
    [InlineData("kit")]
    [InlineData("owner")]
    public void A_kit_that_nobody_named_must_be_closed_to_others(string open)
    {
        Directory.CreateDirectory(_stage["stick"]);
        var kit = _stage["stick", "a.amberkit"];
        File.WriteAllText(kit, "");
        MakeKit.RequireOwn(kit, _stage["stick"]).ShouldBe(kit);
        const UnixFileMode shared = UnixFileMode.OtherWrite | UnixFileMode.UserRead | UnixFileMode.UserWrite
            | UnixFileMode.UserExecute;
        if (open == "owner")
        {
            Assert.SkipUnless(Environment.IsPrivilegedProcess, "it takes root to have files of another user");
            Posix.ChangeOwner(kit, Other, Other);
        }
        else File.SetUnixFileMode(open == "kit" ? kit : _stage["stick"], shared);
        var refused = Should.Throw<ProblemException>(() => MakeKit.RequireOwn(kit, _stage["stick"])).Problem;
        (refused.Code, refused.Remedy.ToString()).ShouldBe(
            (ProblemCode.Refused, $"if it is the right one, name it: acrate equip {kit}"));
    }

    [Theory]
    [InlineData("root")]
    [InlineData("link")]
    public async Task A_root_of_another_user_is_not_used_by_root(string what)
    {
        Assert.SkipUnless(Environment.IsPrivilegedProcess, "it takes root to have files of another user");
        Directory.CreateDirectory(_stage["away"]);
        Directory.CreateDirectory(_stage["theirs"]);
        if (what == "root") Posix.ChangeOwner(_stage["theirs"], Other, Other);
        else
        {
            File.CreateSymbolicLink(_stage["theirs", ".local"], _stage["away"]);
            Posix.ChangeOwner(_stage["theirs", ".local"], Other, Other);
        }

        _stage.Root = "theirs";
        var changing = await Should.ThrowAsync<ProblemException>(() => new Install(_stage.Session()).RunAsync(
            [AppReference.Parse("cue-ledger")], new InstallRequest(), new RunOptions { IsAgreed = true }, default));
        var reading = await Should.ThrowAsync<ProblemException>(() =>
            new ListApps(_stage.Session()).RunAsync(new ListRequest(), default));
        foreach (var refused in new[] { changing.Problem, reading.Problem })
            (refused.Code, refused.What).ShouldBe((
                ProblemCode.NoRights,
                $"{(what == "root" ? _stage["theirs"] : _stage["theirs", ".local"])} belongs to another user"));
        Directory.EnumerateFileSystemEntries(_stage["away"]).ShouldBeEmpty();
    }

    private Task<KitResult> MakeAsync() => new MakeKit(_stage.Session()).RunAsync(
        new KitRequest(_stage["frame.bundle.toml"], Kit), new RunOptions(), TestContext.Current.CancellationToken);
}
