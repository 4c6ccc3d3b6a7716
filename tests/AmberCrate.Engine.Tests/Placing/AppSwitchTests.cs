using System.Security.Cryptography;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Observing;
using AmberCrate.Engine.Placing;
using AmberCrate.Engine.Records;

namespace AmberCrate.Engine.Tests.Placing;

public sealed class AppSwitchTests : IDisposable
{
    private readonly TemporaryFolder _folder = new();
    private readonly MachineLayout _layout;
    private readonly RecordStore _records;
    private readonly Shelf _shelf;
    private readonly AppSwitch _switch;

    public AppSwitchTests()
    {
        _layout = MachineLayout.Under(_folder.Path);
        _records = RecordStore.Open(_layout, TimeProvider.System, create: true);
        _shelf = new Shelf(_layout);
        _switch = new AppSwitch(_shelf, Placer(), _records);
    }

    public void Dispose()
    {
        _records.Dispose();
        _folder.Dispose();
    }

    [Fact]
    public void An_app_is_put_on_swapped_and_taken_off()
    {
        var one = Stock("1", "tool", "old-tool");
        _switch.SwitchTo(null, one);
        Placed().ShouldBe(
            ["old-tool -> ../share/amber-crate/front/gantry/bin/old-tool", "tool -> ../share/amber-crate/front/gantry/bin/tool"]);
        var two = Stock("2", "tool");
        _switch.SwitchTo(one, two);
        Placed().ShouldBe(["tool -> ../share/amber-crate/front/gantry/bin/tool"]);
        File.ReadAllText(_folder[".local", "bin", "tool"]).ShouldBe("2");
        _records.Find(two.Id)!.Version.Text.ShouldBe("2");
        _switch.SwitchTo(two, null);
        Placed().ShouldBeEmpty();
        _records.Find(two.Id).ShouldBeNull();
        _folder.Tree(".local/share/amber-crate/front").ShouldBeEmpty();
    }

    [Fact]
    public void What_a_dead_process_left_behind_is_removed()
    {
        var one = Stock("1", "tool");
        _switch.SwitchTo(null, one);
        var two = Stock("2", "tool");
        _records.Intend(two.Id, two);
        File.CreateSymbolicLink(_folder[".local", "bin", ".tool.1.acrate-new"], "nowhere");
        _shelf.MakeIncoming(two with { Version = AppVersion.Parse("3") });
        Directory.CreateDirectory(Path.Combine(_layout.ShelfFolder, "never-recorded", "1+any"));
        _switch.RevertUnsettled().Reverted.ShouldBe(["gantry"]);
        Placed().ShouldBe(["tool -> ../share/amber-crate/front/gantry/bin/tool"]);
        Directory.GetDirectories(_layout.ShelfFolder).Select(Path.GetFileName).ShouldBe(["gantry"]);
        Directory.GetDirectories(_layout.ShelfOf(one.Id)).Select(Path.GetFileName).Order().ShouldBe(["1+any", "2+any"]);
    }

    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public void What_was_cut_off_is_put_back(bool wasInstalled)
    {
        var one = Stock("1", "tool", "old-tool");
        if (wasInstalled) _switch.SwitchTo(null, one);
        var before = Placed();
        var two = Stock("2", "tool", "new-tool");
        // A crash after everything has been done but settling.
        _records.Intend(two.Id, two);
        _shelf.PutInFront(two);
        Placer().Place(two, one);
        Placer().TakeAway(one, two);
        _switch.RevertUnsettled().Reverted.ShouldBe(["gantry"]);
        Placed().ShouldBe(before);
        if (wasInstalled) File.ReadAllText(_folder[".local", "bin", "tool"]).ShouldBe("1");
        (_records.Find(two.Id)?.Version.Text).ShouldBe(wasInstalled ? "1" : null);
        _switch.RevertUnsettled().Reverted.ShouldBeEmpty();
    }

    [Fact]
    public void A_version_that_does_not_verify_is_put_back()
    {
        var one = Stock("1", "tool");
        _switch.SwitchTo(null, one);
        var two = Stock("2", "tool");
        File.SetUnixFileMode(Path.Combine(_shelf.FolderOf(two), "bin", "tool"), UnixFileMode.UserRead | UnixFileMode.UserWrite);
        var problem = Should.Throw<ProblemException>(() => _switch.SwitchTo(one, two)).Problem;
        problem.Why.ShouldContain("not an executable file");
        File.ReadAllText(_folder[".local", "bin", "tool"]).ShouldBe("1");
        _records.Intentions().ShouldBeEmpty();
    }

    [Fact]
    public void Foreign_and_edited_files_are_in_the_way_and_stay()
    {
        var one = Stock("1", "tool");
        Directory.CreateDirectory(_layout.BinFolder);
        File.WriteAllText(Path.Combine(_layout.BinFolder, "tool"), "somebody else's");
        var placer = Placer();
        Should.Throw<ProblemException>(() => placer.RequireFreeWay(one, false, null, [])).Problem.Why.ShouldBe(
            "it was not placed by acrate");
        Should.Throw<ProblemException>(() => placer.RequireFreeWay(
            one, false, null, [one with { Id = AppId.Parse("other") }])).Problem.Why.ShouldBe("it belongs to other");
        placer.TakeAway(one, null);
        File.ReadAllText(Path.Combine(_layout.BinFolder, "tool")).ShouldBe("somebody else's");
    }

    private Placer Placer()
    {
        var packages = new SystemPackages(_folder["system"]);
        return new Placer(_layout, packages, new ProgramCheck("/", "", packages));
    }

    [Fact]
    public void What_a_link_leads_to_is_neither_changed_nor_taken_for_a_part_of_the_app()
    {
        const UnixFileMode own = UnixFileMode.UserRead | UnixFileMode.UserExecute | UnixFileMode.SetUser;
        Directory.CreateDirectory(_folder["outside"]);
        File.WriteAllText(_folder["outside", "tool"], "the system's own");
        File.SetUnixFileMode(_folder["outside", "tool"], own);
        var app = Stock(
            "1.0",
            incoming =>
            {
                File.CreateSymbolicLink(Path.Combine(incoming, "out"), _folder["outside"]);
                File.CreateSymbolicLink(Path.Combine(incoming, "circle"), ".");
            },
            "gantry");
        File.GetUnixFileMode(_folder["outside", "tool"]).ShouldBe(own);
        _shelf.ManifestOf(app)!.Files.Select(file => file.Path).ShouldBe(["bin/gantry", "circle", "out"]);
        DiskRoom.Measure(_shelf.FolderOf(app)).ShouldBe("1.0".Length);
    }

    private IReadOnlyList<string> Placed() => _folder.Tree(".local/bin");

    /// <summary>A version of an app, complete on the shelf.</summary>
    private InstalledApp Stock(string version, params string[] commands) => Stock(version, _ => { }, commands);

    private InstalledApp Stock(string version, Action<string> add, params string[] commands)
    {
        var app = new InstalledApp
        {
            Id = AppId.Parse("gantry"), Name = "Gantry", Kind = AppKind.ConsoleApp, Version = AppVersion.Parse(version),
            Architecture = "any", Line = ReleaseLine.Stable,
            Released = new DateOnly(2026, 1, 1), Catalogue = CatalogueName.Parse("house"),
            InstalledAt = DateTimeOffset.UnixEpoch, Source = "/x", Sha256 = Sha256Digest.FromBytes(SHA256.HashData([])),
            Placed =
            [
                .. commands.Select(
                    command => new PlacedItem(PlaceKind.Command, command, InsidePath.Parse($"bin/{command}"), null)),
            ],
        };
        var incoming = _shelf.MakeIncoming(app);
        foreach (var command in commands)
            AtomicFile.Write(
                Path.Combine(incoming, "bin", command), System.Text.Encoding.UTF8.GetBytes(version),
                UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute);
        add(incoming);
        _shelf.Accept(app, incoming, [VerifiedFile.ReceiveAsync(Stream.Null, _folder["artifact"], 0, app.Sha256, default).Result],
            ShelfManifest.Scan(incoming, default), null);
        File.Delete(_folder["artifact"]);
        return app;
    }
}
