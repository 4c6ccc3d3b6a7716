using System.Formats.Tar;
using System.Security.Cryptography;
using System.Text;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Runs;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Bundling;
using AmberCrate.Engine.Cataloguing;
using AmberCrate.Engine.Equipping;
using AmberCrate.Engine.Exporting;
using AmberCrate.Engine.KitFiles;
using AmberCrate.Engine.Kits;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Tests.Kits;

public sealed class KitTests : IAsyncLifetime, IDisposable
{
    // The guild is an unsigned folder of cards here.
    private static readonly RunOptions Agreed = new() { IsAgreed = true, AllowsUnsigned = true };

    private readonly OperationStage _stage = new();

    private string Kit => _stage["frame.amberkit"];

    public async ValueTask InitializeAsync()
    {
        await _stage.AddGuildAsync();
        await File.WriteAllTextAsync(_stage["frame.bundle.toml"], """
            bundle = 1
            title = "Paint frame"

            [[apps]]
            reference = "guild:scrim-paint@4.2.x"

            [[apps]]
            reference = "guild:cue-ledger"
            pin = { to = "1.5.0", reason = "the season's sheets" }

            [[apps]]
            reference = "guild:backcloth-render@lts"
            """);
        await MakeAsync();
    }

    public ValueTask DisposeAsync() => ValueTask.CompletedTask;

    [Fact]
    public async Task A_kit_tells_what_the_other_machine_must_have_and_does_not_need_it_here()
    {
        var card = _stage["guild", "cue-ledger.appcard.toml"];
        await File.WriteAllLinesAsync(card,
            ["system = [{ kind = \"library\", name = \"libgauze.so.2\" }]", .. await File.ReadAllLinesAsync(card)]);
        await new RefreshCatalogues(_stage.Session()).RunAsync([], default);
        Directory.Delete(_stage["home"], recursive: true);
        var made = await new MakeKit(_stage.Session()).RunAsync(
            new KitRequest(_stage["frame.bundle.toml"], _stage["other.amberkit"]), Agreed, default);
        made.Requirements.Select(requirement => requirement.Words).ShouldBe(["libgauze.so.2"]);
        made.Silent.ShouldBe(["scrim-paint", "backcloth-render"], ignoreOrder: true);
        _stage.Root = "other";
        var items = (await EquipAsync(_stage["other.amberkit"])).Report!.Items;
        items.Where(item => item.Problem is not null).Select(item => $"{item.Item.Id} {item.Problem!.Code}")
            .ShouldBe(["cue-ledger SystemLacks"]);
        items.Count(item => item.Outcome == Outcome.Done).ShouldBe(2);
    }

    [Fact]
    public async Task A_bare_machine_is_equipped_from_the_kit_alone()
    {
        Directory.Move(_stage["guild"], _stage["away"]);
        Directory.Delete(_stage["home"], recursive: true);
        _stage.Root = "other";
        var report = (await EquipAsync(Kit)).Report!;
        report.Items.Select(item => $"{item.Item.Id} {item.Item.To} {OutcomeWords.Outcomes.WordOf(item.Outcome)}")
            .ShouldContain("cue-ledger 1.5.0 done");
        report.Failures.ShouldBeEmpty();
        var export = new Export(_stage.Session()).Run(new ExportRequest(null), default).Bundle;
        export.Apps.Select(app => $"{app.Reference} {app.Pin?.Reason}").ShouldBe([
            "guild:backcloth-render@lts ", "guild:cue-ledger the season's sheets", "guild:scrim-paint@4.2.x ",
        ]);
        export.Catalogues.ShouldHaveSingleItem().Location.ShouldBe(_stage["guild"]);
        (await EquipAsync(Kit)).Report!.Number.ShouldBeNull("nothing is left to do");
    }

    [Fact]
    public async Task The_same_bundle_gives_the_same_bytes_and_an_interrupted_try_is_finished()
    {
        var whole = await File.ReadAllBytesAsync(Kit);
        for (var tenth = 0; tenth <= 10; tenth++)
        {
            File.Delete(Kit);
            var left = whole[..(whole.Length * tenth / 10)];
            if (tenth == 5) left[^1] ^= 1;
            await File.WriteAllBytesAsync(Kit + ".part", left);
            var made = await MakeAsync();
            (await File.ReadAllBytesAsync(Kit)).ShouldBe(whole);
            made.Kept.ShouldBeInRange(tenth == 5 ? left.Length - 65536 : left.Length, left.Length);
            File.Exists(Kit + ".part").ShouldBeFalse();
        }
    }

    [Fact]
    public async Task A_link_where_the_kit_is_to_be_written_is_not_followed()
    {
        var precious = _stage["precious"];
        await File.WriteAllTextAsync(precious, "precious");
        File.Delete(Kit);
        File.CreateSymbolicLink(Kit + ".part", precious);
        await MakeAsync();
        (await File.ReadAllTextAsync(precious)).ShouldBe("precious");
        new FileInfo(Kit).LinkTarget.ShouldBeNull();
    }

    [Theory]
    [InlineData(1024)]
    [InlineData(5000)]
    [InlineData(20_000)]
    public async Task Parts_are_joined_by_themselves_and_a_missing_one_is_named(int size)
    {
        var whole = await File.ReadAllBytesAsync(Kit);
        File.Delete(Kit);
        var made = await new MakeKit(_stage.Session()).RunAsync(
            new KitRequest("frame.bundle.toml", Kit) { Split = size }, Agreed, default);
        made.Files.Count.ShouldBe((whole.Length + size - 1) / size);
        made.Files.SelectMany(File.ReadAllBytes).ToArray().ShouldBe(whole);
        KitFile.Open(Kit).Bundle("a.amberkit").Bundle.Apps.Count.ShouldBe(3);
        if (made.Files.Count < 3) return;
        File.Delete(made.Files[1]);
        ProblemOf(Kit).Why.ShouldBe($"{Path.GetFileName(Kit)}.2 is missing");
    }

    [Fact]
    public async Task A_kit_cut_short_anywhere_is_no_kit()
    {
        var whole = await File.ReadAllBytesAsync(Kit);
        for (var tenth = 0; tenth < 10; tenth++)
        {
            var cut = whole[..(whole.Length * tenth / 10)];
            await File.WriteAllBytesAsync(_stage["cut.amberkit"], cut);
            if (tenth > 0) ProblemOf(_stage["cut.amberkit"]).Code.ShouldBe(ProblemCode.NotVerified);
            var refused = await Should.ThrowAsync<ProblemException>(() => EquipAsync(_stage["cut.amberkit"]));
            refused.Problem.Code.ShouldBe(ProblemCode.NotVerified);
        }
    }

    [Fact]
    public async Task No_byte_of_it_can_be_changed_unseen()
    {
        var whole = await File.ReadAllBytesAsync(Kit);
        DropCache();
        foreach (var (name, from, size) in EntriesOf(Kit))
        {

            // What we do not read decides nothing.
            if (name == KitManifest.LayoutName || IsConfiguration(whole, name.Split('/')[^1])) continue;
            var changed = (byte[])whole.Clone();
            changed[from + (size / 2)] ^= 0x20;
            await File.WriteAllBytesAsync(Kit, changed);
            _stage.Root = $"root-{name[^4..]}";
            try
            {
                var failures = (await EquipAsync(Kit)).Report!.Failures.ToList();
                failures.ShouldHaveSingleItem(name).Problem!.Code.ShouldBe(ProblemCode.NotVerified);
            }
            catch (ProblemException refused)
            {
                refused.Problem.Code.ShouldBe(ProblemCode.NotVerified, name);
            }

            DropCache();
        }
    }

    [Theory]
    [InlineData("../evil")]
    [InlineData("/etc/evil")]
    [InlineData("blobs/sha256/../../evil")]
    [InlineData("readme.txt")]
    [InlineData("index.json")]
    public async Task Names_that_do_not_belong_are_refused(string name)
    {
        await AppendAsync(writer => writer.WriteEntry(new UstarTarEntry(TarEntryType.RegularFile, name)
        {
            DataStream = new MemoryStream("x"u8.ToArray()),
        }));
        ProblemOf(Kit).Why.ShouldContain(name == "index.json" ? "there twice" : "does not belong in a kit");
    }

    [Fact]
    public async Task Links_are_refused()
    {
        await AppendAsync(writer => writer.WriteEntry(new UstarTarEntry(TarEntryType.SymbolicLink, "blobs")
        {
            LinkName = "/etc",
        }));
        ProblemOf(Kit).Why.ShouldContain("does not belong in a kit");
    }

    [Theory]
    [InlineData("", "99")]
    [InlineData("vnd.ambercrate.kit.v1", "vnd.ambercrate.kit.v2")]
    [InlineData("vnd.ambercrate.kit.v1", "vnd.elsewhere.thing.1")]
    public async Task A_manifest_that_lies_is_refused(string before, string after)
    {
        // A manifest of its own with the digest that belongs to it: only what it says is wrong.
        var whole = await File.ReadAllBytesAsync(Kit);
        var (_, at, size) = EntriesOf(Kit)[2];
        var text = Encoding.UTF8.GetString(whole, at, size);
        var told = before.Length == 0 ? text : text.Replace(before, after, StringComparison.Ordinal);
        if (before.Length == 0)
        {
            var layers = text.IndexOf("layers", StringComparison.Ordinal);
            var number = text.IndexOf("\"size\":", layers, StringComparison.Ordinal) + "\"size\":".Length;
            var end = text.AsSpan(number).IndexOfAnyExceptInRange('0', '9') + number;
            told = text[..number] + after + text[end..];
        }

        var lying = Encoding.UTF8.GetBytes(told);
        var (old, now) = (Hex(whole.AsSpan(at, size)), Hex(lying));
        using var target = new MemoryStream();
        using (var writer = new TarWriter(target, TarEntryFormat.Ustar, leaveOpen: true))
        {
            foreach (var (name, from, length) in EntriesOf(Kit))
            {
                var content = name.EndsWith(old, StringComparison.Ordinal) ? lying : whole[from..(from + length)];
                if (name == KitManifest.IndexName)
                    content = Encoding.UTF8.GetBytes(Encoding.UTF8.GetString(content).Replace(old, now, StringComparison.Ordinal)
                        .Replace($"\"size\":{size}", $"\"size\":{lying.Length}", StringComparison.Ordinal));
                await writer.WriteEntryAsync(new UstarTarEntry(
                    TarEntryType.RegularFile, name.Replace(old, now, StringComparison.Ordinal))
                { DataStream = new MemoryStream(content) });
            }
        }

        await File.WriteAllBytesAsync(Kit, target.ToArray());
        ProblemOf(Kit).Code.ShouldBe(ProblemCode.NotVerified);
    }

    [Theory]
    [InlineData("bundle = 1\n[[apps]]\nreference = \"guild:cue-ledger\"\n", "its bundle is not sealed")]
    [InlineData("bundle = 1\nsealed = 2026-11-26\n[[apps]]\nreference = \"guild:cue-ledger\"\nversion = \"1.5.0\"\n"
        + "sha256 = \"00112233445566778899aabbccddeeff00112233445566778899aabbccddeeff\"\n",
        "the file of cue-ledger is not in it")]
    public async Task A_kit_that_would_need_more_than_it_holds_is_refused(string bundle, string says)
    {
        var text = Encoding.UTF8.GetBytes(bundle);
        var manifest = new KitManifest("x", Engine.Host.HostPlatform.Current, DateTimeOffset.UnixEpoch,
            [new KitBlob(KitMedia.Bundle, Sha256Digest.Parse(Hex(text)), text.Length)]);
        var path = _stage["made.amberkit"];
        using (var target = new SplitWriter(path, long.MaxValue))
        {
            await new KitWriter(manifest).WriteAsync(target, _ => new MemoryStream(text), _ => { }, default);
            target.Finish();
        }

        (await Should.ThrowAsync<ProblemException>(() => EquipAsync(path))).Problem.Why.ShouldBe(says);
    }

    [Fact]
    public async Task A_kit_for_another_platform_says_so()
    {
        File.Delete(Kit);
        var other = Core.Values.Platform.Parse("riscv64-linux-gnu");
        await new MakeKit(_stage.Session()).RunAsync(new KitRequest("frame.bundle.toml", Kit) { Platform = other }, Agreed,
            default);
        (await Should.ThrowAsync<ProblemException>(() => EquipAsync(Kit))).Problem.What.ShouldBe(
            $"{Kit} is for another platform, riscv64-linux-gnu");
    }

    [Fact]
    public async Task A_sealed_bundle_whose_file_was_exchanged_fails_by_name()
    {
        await new LookAtBundle(_stage.Session()).SealAsync("frame.bundle.toml", _stage["sealed.bundle.toml"], null, default);
        var card = _stage["guild", "cue-ledger.appcard.toml"];
        var text = await File.ReadAllTextAsync(card);
        var digest = AmberCrate.Engine.BundleFiles.BundleFile.Read(_stage["sealed.bundle.toml"]).Apps
            .First(app => app.Reference.Name == "cue-ledger").Sha256!.Hex;
        await File.WriteAllTextAsync(card, text.Replace(digest, new string('0', 64), StringComparison.Ordinal));
        await new RefreshCatalogues(_stage.Session()).RunAsync([], default);
        _stage.Root = "other";
        await _stage.AddGuildAsync();
        var report = (await EquipAsync(_stage["sealed.bundle.toml"])).Report!;
        report.Items.Where(item => item.Outcome == Outcome.NotOffered).ShouldHaveSingleItem().Item.Id.ShouldBe("cue-ledger");
        report.Items.Count(item => item.Outcome == Outcome.Done).ShouldBeGreaterThan(1);
        _stage.Root = "root";
        var check = await new LookAtBundle(_stage.Session()).CheckAsync(_stage["sealed.bundle.toml"], default);
        check.Findings.Select(finding => BundleFindingWords.Kinds.WordOf(finding.Kind))
            .ShouldBe(["not-as-sealed", "cards-changed"]);
    }

    public void Dispose() => _stage.Dispose();

    private void DropCache()
    {
        if (Directory.Exists(_stage["home"])) Directory.Delete(_stage["home"], recursive: true);
    }

    private Task<KitResult> MakeAsync() =>
        new MakeKit(_stage.Session()).RunAsync(new KitRequest("frame.bundle.toml", Kit), Agreed, default);

    private Task<RunResult> EquipAsync(string bundle) =>
        new Equip(_stage.Session(isOffline: true)).RunAsync(new EquipRequest(bundle), Agreed, default);

    private static Problem ProblemOf(string kit) => Should.Throw<ProblemException>(() => KitFile.Open(kit)).Problem;

    private static string Hex(ReadOnlySpan<byte> bytes) => Convert.ToHexStringLower(SHA256.HashData(bytes));

    private static bool IsConfiguration(byte[] whole, string name) =>
        Encoding.UTF8.GetString(whole).Contains($"config.v1\\u002Bjson\",\"digest\":\"sha256:{name}\"",
            StringComparison.Ordinal);

    /// <summary>Appends an entry before the end of the archive, by the framework's own writer.</summary>
    private async Task AppendAsync(Action<TarWriter> append)
    {
        using var entry = new MemoryStream();
        await using (var writer = new TarWriter(entry, TarEntryFormat.Ustar, leaveOpen: true)) append(writer);
        var whole = await File.ReadAllBytesAsync(Kit);
        await File.WriteAllBytesAsync(Kit, [.. whole[..^1024], .. entry.ToArray()]);
    }

    /// <summary>The entries of an archive, by the framework's own reader.</summary>
    private static List<(string Name, int From, int Size)> EntriesOf(string path)
    {
        using var stream = File.OpenRead(path);
        using var reader = new TarReader(stream);
        var entries = new List<(string, int, int)>();
        while (reader.GetNextEntry() is { } entry) entries.Add((entry.Name, (int)entry.DataOffset, (int)entry.Length));
        return entries;
    }
}
