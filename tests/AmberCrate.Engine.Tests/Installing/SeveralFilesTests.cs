using System.Formats.Tar;
using System.Security.Cryptography;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Runs;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;
using AmberCrate.Engine.Cataloguing;
using AmberCrate.Engine.Checking;
using AmberCrate.Engine.Equipping;
using AmberCrate.Engine.Installing;
using AmberCrate.Engine.KitFiles;
using AmberCrate.Engine.Kits;
using AmberCrate.Engine.PastRuns;
using AmberCrate.Engine.Removing;
using AmberCrate.Engine.Sessions;
using AmberCrate.Tests.Kits;

namespace AmberCrate.Engine.Tests.Installing;

/// <summary>An app that comes in two files, its program and its data, from the catalogue to the shelf and back.</summary>
public sealed class SeveralFilesTests : IAsyncLifetime, IDisposable
{
    private const string App = "thundersheet";
    private static readonly RunOptions Agreed = new() { IsAgreed = true, AllowsUnsigned = true };
    private readonly OperationStage _stage = new();

    private string Program => _stage["guild", "files", "thundersheet-1.1.0.tar.xz"];

    private string Data => _stage["guild", "files", "thundersheet-data-1.1.0.tar.zst"];

    public async ValueTask InitializeAsync() => await _stage.AddGuildAsync();

    public ValueTask DisposeAsync() => ValueTask.CompletedTask;

    [Fact]
    public async Task Both_files_come_to_one_shelf_entry_and_both_are_on_record()
    {
        var result = await InstallAsync();
        result.Report!.Items.ShouldHaveSingleItem().Outcome.ShouldBe(Outcome.Done);
        result.Plan.Items[0].Delivery!.DownloadSize.ShouldBe(new FileInfo(Program).Length + new FileInfo(Data).Length);
        var shelf = Shelf(App, "1.1.0+any");
        File.Exists(Path.Combine(shelf, "bin", App)).ShouldBeTrue();
        new FileInfo(Path.Combine(shelf, "share", App, "rain.raw")).Length.ShouldBe(40_000);
        var app = Installed()!;
        app.Files.ShouldBe([new DeliveredFile(Program, DigestOf(Program)), new DeliveredFile(Data, DigestOf(Data))]);
        app.Sha256.ShouldBe(Delivery.Combine([DigestOf(Program), DigestOf(Data)]));
        app.Source.ShouldBe(Program);
        (await FaultsAsync()).ShouldBeEmpty();
    }

    [Theory]
    [InlineData("is gone", ProblemCode.StateNeedsAttention)]
    [InlineData("is another one", ProblemCode.NotVerified)]
    [InlineData("ends too soon", ProblemCode.NotVerified)]
    public async Task Without_the_second_file_nothing_is_there_and_with_it_only_that_is_downloaded(
        string how, ProblemCode expected)
    {
        var whole = File.ReadAllBytes(Data);
        if (how == "is gone") File.Delete(Data);
        else File.WriteAllBytes(Data, how == "is another one" ? [.. whole[..^1], (byte)~whole[^1]] : whole[..^9]);
        var failed = (await InstallAsync()).Report!.Items.ShouldHaveSingleItem();
        (failed.Outcome, failed.Problem!.Code).ShouldBe((Outcome.Failed, expected));
        Installed().ShouldBeNull();
        Directory.Exists(Shelf(App)).ShouldBeFalse();
        File.WriteAllBytes(Data, whole);
        File.Delete(Program);
        (await InstallAsync()).Report!.Items.ShouldHaveSingleItem().Outcome.ShouldBe(Outcome.Done, "the program was kept");
    }

    [Theory]
    [InlineData("the same path", "two entries that go to the same place, \"share/rain\"")]
    [InlineData("a path behind a link", "an entry that leads through a link, \"share/link/x\"")]
    [InlineData("a folder where a file is", "an entry below a file as if it were a folder, \"share/rain/x\"")]
    public async Task A_file_cannot_change_what_one_before_it_has_put_there(string how, string says)
    {
        Pack("one.tar", ("share/rain", null), ("share/link", "."));
        Pack("two.tar", (how switch
        {
            "the same path" => "share/rain",
            "a path behind a link" => "share/link/x",
            _ => "share/rain/x",
        }, null));
        await OfferAsync("one.tar", "two.tar");
        var failed = (await InstallAsync("gale")).Report!.Items.ShouldHaveSingleItem();
        (failed.Outcome, failed.Problem!.Code, failed.Problem.Why.ToString()).ShouldBe(
            (Outcome.Failed, ProblemCode.NotVerified, $"it holds {says}"));
        Directory.Exists(Shelf("gale")).ShouldBeFalse();
    }

    [Fact]
    public async Task A_kit_carries_both_files_to_a_machine_without_a_network_and_is_refused_without_one_of_them()
    {
        await File.WriteAllTextAsync(_stage["a.bundle.toml"], $"bundle = 1\n[[apps]]\nreference = \"guild:{App}\"\n");
        var kit = _stage["a.amberkit"];
        var made = await new MakeKit(_stage.Session()).RunAsync(new KitRequest(_stage["a.bundle.toml"], kit), Agreed, default);
        var size = new FileInfo(Program).Length + new FileInfo(Data).Length;
        made.Sizes.Values.ShouldBe([size]);
        new MakeKit(_stage.Session()).View(kit).Sizes.Values.ShouldBe([size]);
        var data = DigestOf(Data);
        KitForge.Change(kit, _stage["half.amberkit"], (layer, content) =>
            layer["digest"]!.GetValue<string>() == $"sha256:{data.Hex}" ? null : content);
        Directory.Delete(_stage["guild"], recursive: true);
        Directory.Delete(_stage["home"], recursive: true);
        _stage.Root = "other";
        var half = await Should.ThrowAsync<ProblemException>(() => EquipAsync(_stage["half.amberkit"]));
        half.Problem.Why.ToString().ShouldBe($"the file of {App} is not in it");
        (await EquipAsync(kit)).Report!.Items.ShouldHaveSingleItem().Outcome.ShouldBe(Outcome.Done);
        (await FaultsAsync()).ShouldBeEmpty();
        KitFile.Open(kit).Holds(data).ShouldBeTrue();
    }

    [Fact]
    public async Task An_app_that_was_uninstalled_comes_back_from_the_cache_with_both_files()
    {
        await InstallAsync();
        await new Uninstall(_stage.Session()).RunAsync([App], new UninstallRequest(), false, Agreed, default);
        File.Delete(_stage["guild", $"{App}.appcard.toml"]);
        await new RefreshCatalogues(_stage.Session()).RunAsync([], default);
        var back = await new Undo(_stage.Session()).RunAsync(null, Agreed, default);
        back.Report!.Items.ShouldHaveSingleItem().Outcome.ShouldBe(Outcome.Done);
        Installed()!.Files.Select(file => file.Sha256).ShouldBe([DigestOf(Program), DigestOf(Data)]);
        (await FaultsAsync()).ShouldBeEmpty();
    }

    [Fact]
    public async Task A_damaged_app_is_put_right_from_both_files()
    {
        await InstallAsync();
        var sound = Shelf(App, "1.1.0+any", "share", App, "rain.raw");
        File.Delete(sound);
        (await FaultsAsync()).ShouldHaveSingleItem();
        await new Install(_stage.Session()).RunAsync(
            [AppReference.Parse(App)], new InstallRequest { IsAgain = true }, Agreed, default);
        File.Exists(sound).ShouldBeTrue();
        (await FaultsAsync()).ShouldBeEmpty();
    }

    [Fact]
    public async Task One_digest_cannot_be_stated_for_several_files()
    {
        var options = Agreed with
        {
            StatedDigests = new Dictionary<string, Sha256Digest> { [App] = Sha256Digest.Parse(new string('a', 64)) },
        };
        var refused = await Should.ThrowAsync<ProblemException>(() => InstallAsync(App, options));
        (refused.Problem.Code, refused.Problem.What).ShouldBe(
            (ProblemCode.BadCommandLine, $"--accept-digest names {App} 1.1.0, which comes in several files"));
    }

    [Fact]
    public async Task Files_that_were_downloaded_beforehand_are_installed_offline()
    {
        await new Prefetch(_stage.Session()).RunAsync([AppReference.Parse(App)], Agreed, default);
        File.Delete(Program);
        File.Delete(Data);
        (await InstallAsync()).Report!.Items.ShouldHaveSingleItem().Outcome.ShouldBe(Outcome.Done);
    }

    public void Dispose() => _stage.Dispose();

    private string Shelf(params string[] parts) =>
        _stage[["root", ".local", "share", "amber-crate", "shelf", .. parts]];

    private static Sha256Digest DigestOf(string file) => Sha256Digest.FromBytes(SHA256.HashData(File.ReadAllBytes(file)));

    private void Pack(string name, params (string Path, string? Link)[] entries)
    {
        using var tar = new TarWriter(File.Create(_stage["guild", "files", name]), TarEntryFormat.Pax);
        foreach (var (path, link) in entries)
            tar.WriteEntry(link is null
                ? new PaxTarEntry(TarEntryType.RegularFile, path) { DataStream = new MemoryStream([.. "rain"u8]) }
                : new PaxTarEntry(TarEntryType.SymbolicLink, path) { LinkName = link });
    }

    /// <summary>Adds the app gale, which comes in some files, to the catalogue.</summary>
    private async Task OfferAsync(params string[] files)
    {
        File.WriteAllText(_stage["guild", "gale.appcard.toml"], """
            appcard = 1
            id = "gale"
            type = "console-application"
            name = "Gale"
            summary = "Wind"
            [[releases]]
            version = "1.0"
            date = 2026-01-01

            """ + string.Concat(files.Select(file => $"""

            [[releases.artifacts]]
            platform = "any-linux-any"
            location = "files/{file}"
            format = "tar"
            sha256 = "{DigestOf(_stage["guild", "files", file]).Hex}"
            download_size = {new FileInfo(_stage["guild", "files", file]).Length}

            """)));
        await new RefreshCatalogues(_stage.Session()).RunAsync([], default);
    }

    private Task<RunResult> InstallAsync(string app = App, RunOptions? options = null) =>
        new Install(_stage.Session()).RunAsync([AppReference.Parse(app)], new InstallRequest(), options ?? Agreed, default);

    private Task<RunResult> EquipAsync(string kit) =>
        new Equip(_stage.Session(isOffline: true)).RunAsync(new EquipRequest(kit), Agreed, default);

    private InstalledApp? Installed()
    {
        using var station = new RootOpener(_stage.Session()).ToRead();
        return station.Records.Apps().FirstOrDefault(app => app.Id.Text == App);
    }

    private async Task<IReadOnlyList<string>> FaultsAsync() =>
        [.. (await new CheckMachine(_stage.Session()).RunAsync([], isDeep: true, default))
            .Findings.Where(one => one.App is not null).Select(one => $"{one}")];
}
