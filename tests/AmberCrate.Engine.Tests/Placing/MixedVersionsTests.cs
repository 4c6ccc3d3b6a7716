using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;
using AmberCrate.Engine.Cataloguing;
using AmberCrate.Engine.Checking;
using AmberCrate.Engine.Installing;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Tests.Placing;

/// <summary>
/// acrate is killed while it places an app, and then older records come back. Afterwards the app is one version again, however
/// many of its files had been placed.
/// </summary>
public sealed class MixedVersionsTests : IDisposable
{
    private static readonly RunOptions Agreed = new() { IsAgreed = true };

    private readonly OperationStage _stage = new();
    private string? _original;

    public void Dispose() => _stage.Dispose();

    public static TheoryData<string, int> Mixtures()
    {
        var data = new TheoryData<string, int>();
        foreach (var way in new[] { "upgrade", "downgrade" })
        {
            for (var kept = 0; kept < 16; kept++) data.Add(way, kept);
        }

        return data;
    }

    [Theory]
    [MemberData(nameof(Mixtures))]
    public async Task An_app_is_one_version_again_after_the_next_command(string way, int kept)
    {
        await MixAsync(way, kept);
        await InstallAsync("cue-ledger");
        await RequireOneVersionAsync();
    }

    /// <summary>Without any other command, check names what is mixed and does not blame the user, and repair heals it.</summary>
    [Theory]
    [MemberData(nameof(Mixtures))]
    public async Task Repair_heals_whatever_check_names(string way, int kept)
    {
        await MixAsync(way, kept);
        (await new CheckMachine(_stage.Session()).RunAsync([], isDeep: true, default)).Findings
            .ShouldNotContain(finding => finding.What.Contains("by hand", StringComparison.Ordinal));
        await new CheckMachine(_stage.Session()).RepairAsync([], isDeep: true, Agreed, default);
        await RequireOneVersionAsync();
    }

    /// <summary>What the user has changed is still theirs.</summary>
    [Fact]
    public async Task An_entry_that_was_changed_by_hand_stays()
    {
        await MixAsync("upgrade", 0);
        var entry = Places().Single(path => path.EndsWith(".desktop", StringComparison.Ordinal));
        await File.WriteAllTextAsync(entry, "[Desktop Entry]\nType=Application\nName=Mine\nExec=mine\n");
        await InstallAsync("cue-ledger");
        (await File.ReadAllTextAsync(entry)).ShouldContain("Name=Mine");
    }

    /// <summary>Goes to another version, then puts the old records back, and some things of the old version.</summary>
    private async Task MixAsync(string way, int kept)
    {
        await _stage.AddGuildAsync();
        await ChangeCardAsync(isLater: way == "downgrade");
        await InstallAsync(way == "upgrade" ? "scrim-paint@4.1.x" : "scrim-paint@4.2.x");
        var records = await File.ReadAllBytesAsync(Records);
        var old = Places().ToDictionary(path => path, Seen);
        await ChangeCardAsync(isLater: way == "upgrade");
        await InstallAsync(way == "upgrade" ? "scrim-paint@4.2.x" : "scrim-paint@4.1.x");
        old.Count(one => !Path.Exists(one.Key) || !Same(one.Value, Seen(one.Key))).ShouldBe(
            way == "upgrade" ? 2 : 3, "the versions place the same");
        File.Delete(Records + "-wal");
        File.Delete(Records + "-shm");
        await File.WriteAllBytesAsync(Records, records);
        var places = old.Keys.Order(StringComparer.Ordinal).ToList();
        for (var at = 0; at < places.Count; at++)
        {
            if ((kept & (1 << at)) == 0) continue;
            File.Delete(places[at]);
            Directory.CreateDirectory(Path.GetDirectoryName(places[at])!);
            if (old[places[at]] is { Link: { } target }) File.CreateSymbolicLink(places[at], target);
            else await File.WriteAllBytesAsync(places[at], old[places[at]].Content!);
        }
    }

    /// <summary>The later version has another command and icon, and an entry with other words.</summary>
    private async Task ChangeCardAsync(bool isLater)
    {
        var path = _stage["guild", "scrim-paint.appcard.toml"];
        var (entry, icon) = ("path = \"share/applications/scrim-paint.desktop\"\n", "size = \"scalable\"");
        _original ??= await File.ReadAllTextAsync(path);
        await File.WriteAllTextAsync(path, !isLater ? _original : _original
            .Replace(entry, "", StringComparison.Ordinal)
            .Replace(icon, "size = \"symbolic\"", StringComparison.Ordinal)
            .Replace("[[place.desktop_entries]]", "[[place.commands]]\nname = \"scrim-two\"\npath = \"bin/scrim-paint\"\n\n"
                + "[[place.desktop_entries]]", StringComparison.Ordinal));
        await new RefreshCatalogues(_stage.Session()).RunAsync([], default);
    }

    private async Task RequireOneVersionAsync()
    {
        (await new CheckMachine(_stage.Session()).RunAsync([], isDeep: true, default)).Findings
            .Where(finding => finding.App == "scrim-paint").ShouldBeEmpty();
        using var station = new RootOpener(_stage.Session()).ToRead();
        var app = station.Apps.Read().Find(AppId.Parse("scrim-paint")).ShouldNotBeNull();
        station.Placing.Shelf.LiveName(app.Id).ShouldBe(app.ShelfName);
        app.Placed.ShouldAllBe(item => station.Placing.Placer.IsAsPlaced(app, item));
    }

    private static bool Same((string? Link, byte[]? Content) one, (string? Link, byte[]? Content) other) =>
        one.Link == other.Link && (one.Content ?? []).AsSpan().SequenceEqual(other.Content ?? []);

    private string Records => _stage["root", ".local", "state", "amber-crate", "records.db"];

    private static (string? Link, byte[]? Content) Seen(string path) => new FileInfo(path).LinkTarget is { } target
        ? (target, null) : (null, File.ReadAllBytes(path));

    private List<string> Places()
    {
        using var station = new RootOpener(_stage.Session()).ToRead();
        return [.. station.Apps.Read().Find(AppId.Parse("scrim-paint"))!.Placed
            .Select(item => station.Layout.PathOf(item.Kind, item.Name))];
    }

    private async Task InstallAsync(string app) => (await new Install(_stage.Session()).RunAsync(
        [AppReference.Parse(app)], new InstallRequest(), Agreed, default)).Report!.Failures.ShouldBeEmpty();
}
