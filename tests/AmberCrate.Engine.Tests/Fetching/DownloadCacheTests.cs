using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Layout;
using AmberCrate.Playhouse;

namespace AmberCrate.Engine.Tests.Fetching;

/// <summary>
/// Whatever a server does: the bytes that were wanted, or a problem that says why not, and nothing false in the cache.
/// </summary>
public sealed class DownloadCacheTests : IAsyncLifetime
{
    private static readonly byte[] Bytes = RandomNumberGenerator.GetBytes(300_000);
    private static readonly Sha256Digest Digest = Sha256Digest.FromBytes(SHA256.HashData(Bytes));
    private readonly TemporaryFolder _folder = new();
    private readonly List<string> _waits = [];
    private StaticServer _server = null!;

    public async ValueTask InitializeAsync()
    {
        Directory.CreateDirectory(_folder["served"]);
        File.WriteAllBytes(_folder["served", "a"], Bytes);
        File.WriteAllBytes(_folder["served", "b"], Bytes);
        File.WriteAllBytes(_folder["served", "false"], Bytes);
        _server = await StaticServer.StartAsync(_folder["served"]);
    }

    public async ValueTask DisposeAsync()
    {
        await _server.DisposeAsync();
        _folder.Dispose();
    }

    public static TheoryData<string, ServerFault, string> Harmless => new()
    {
        { "twice 503", new ServerFault.First(2, new ServerFault.Status(503)), "503 503 200" },
        { "once 429, asking for a second", new ServerFault.First(1, new ServerFault.Later(429, "1")), "429 200" },
        { "broken off once", new ServerFault.First(1, new ServerFault.CutShort()), "200 206" },
        { "stalled once", new ServerFault.First(1, new ServerFault.Stall()), "200 206" },
        { "no length", new ServerFault.NoLength(), "200" },
        { "compressed on top", new ServerFault.Compressed(), "200" },
        { "said to be compressed", new ServerFault.SaysCompressed(), "200" },
        { "slow", new ServerFault.Slow(3_000_000), "200" },
    };

    [Theory]
    [MemberData(nameof(Harmless))]
    public async Task What_passes_is_overcome(string name, ServerFault fault, string statuses)
    {
        _server.Faults["a"] = fault;
        var file = await GetAsync(Cache(), Wanted("a"));
        File.ReadAllBytes(file.Path).ShouldBe(Bytes, name);
        Statuses().ShouldBe(statuses, name);
        Kept().ShouldBe([Digest.Hex]);
    }

    public static TheoryData<string, ServerFault, ProblemCode, string, string> Harmful => new()
    {
        { "404", new ServerFault.Status(404), ProblemCode.Unreachable, "the server answers 404 Not Found", "404" },
        { "410", new ServerFault.Status(410), ProblemCode.Unreachable, "the server answers 410 Gone", "410" },
        { "416", new ServerFault.Status(
            416), ProblemCode.Unreachable, "the server answers 416 Requested Range Not Satisfiable", "416" },
        { "500", new ServerFault.Status(
            500), ProblemCode.Unreachable, "the server answers 500 Internal Server Error; tried 5 times", "500 500 500 500 500" },
        { "busy for an hour", new ServerFault.Later(
            503,
            "3600"), ProblemCode.Unreachable, "the server answers 503 Service Unavailable, and asks to be left alone for 60 "
                + "minutes", "503" },
        { "a circle", new ServerFault.Redirect(
            "a"), ProblemCode.Unreachable, "the server redirects more than 5 times; tried 5 times", "302" },
        { "other bytes", new ServerFault.OtherBytes(), ProblemCode.NotVerified, $"expected sha256 {Digest}, 300000 bytes; "
            + $"found sha256 {Sha256Digest.FromBytes(SHA256.HashData([.. Bytes.Select(b => (byte)~b)]))}, 300000 bytes", "200" },
        { "a shorter file", new ServerFault.OtherFile(
        [
            1, 2, 3,
        ]), ProblemCode.NotVerified,
            "found sha256 039058c6f2c0cb492c533b0a4d14ef77cc0f78abccced5287d84a1a2011cfb81, 3 bytes", "200" },
        { "a longer file", new ServerFault.OtherFile(new byte[400_000]), ProblemCode.NotVerified, ", 400000 bytes", "200" },
    };

    [Theory]
    [MemberData(nameof(Harmful))]
    public async Task What_does_not_pass_fails_with_its_reason_and_leaves_nothing_false(
        string name, ServerFault fault, ProblemCode code, string why, string statuses)
    {
        _server.Faults["a"] = fault;
        var problem = (await Should.ThrowAsync<ProblemException>(() => GetAsync(Cache(), Wanted("a")))).Problem;
        problem.Code.ShouldBe(code, name);
        problem.Why.ShouldEndWith(why, Case.Sensitive, name);
        problem.Remedy.IsEmpty.ShouldBeFalse();
        string.Join(' ', Statuses().Split(' ').Take(statuses.Split(' ').Length)).ShouldBe(statuses, name);
        Kept().ShouldBeEmpty();
    }

    [Fact]
    public async Task A_server_that_cuts_every_answer_and_knows_no_ranges_is_given_up()
    {
        _server.Faults["a"] = new ServerFault.CutShort();
        (await Should.ThrowAsync<ProblemException>(() => GetAsync(Cache(), Wanted("a")))).Problem.Code.ShouldBe(
            ProblemCode.Unreachable);
    }

    [Theory]
    [InlineData(false, "200")]
    [InlineData(true, "206 200")]
    public async Task A_half_is_taken_up_where_it_is_of_use_and_thrown_away_where_not(bool isOfAnotherFile, string statuses)
    {
        Directory.CreateDirectory(_folder["cache"]);
        File.WriteAllBytes(_folder["cache", Digest.Hex + ".part"], isOfAnotherFile ? new byte[1000] : Bytes[..200_000]);
        var file = await GetAsync(Cache(), Wanted("a"));
        File.ReadAllBytes(file.Path).ShouldBe(Bytes);
        Statuses().ShouldBe(isOfAnotherFile ? statuses : "206");
        Kept().ShouldBe([Digest.Hex]);
    }

    [Fact]
    public async Task A_half_that_is_whole_already_is_only_checked()
    {
        Directory.CreateDirectory(_folder["cache"]);
        File.WriteAllBytes(_folder["cache", Digest.Hex + ".part"], Bytes);
        await GetAsync(Cache(), Wanted("a"));
        _server.Requests.ShouldBeEmpty();
        File.WriteAllBytes(_folder["cache", Digest.Hex + ".part"], new byte[300_001]);
        File.Delete(_folder["cache", Digest.Hex]);
        await GetAsync(Cache(), Wanted("a"));
        Statuses().ShouldBe("416 200");
    }

    public static TheoryData<ServerFault> WrongParts =>
        [new ServerFault.NoRanges(), new ServerFault.OtherRange(), new ServerFault.ShiftedRange()];

    [Theory]
    [MemberData(nameof(WrongParts))]
    public async Task A_range_that_is_not_kept_does_no_harm_now_or_later(ServerFault fault)
    {
        _server.Faults["a"] = fault;
        Directory.CreateDirectory(_folder["cache"]);
        foreach (var half in new[] { Bytes[..1000], Bytes[..299_999] })
        {
            File.WriteAllBytes(_folder["cache", Digest.Hex + ".part"], half);
            File.ReadAllBytes((await GetAsync(Cache(), Wanted("a"))).Path).ShouldBe(Bytes);
            File.Delete(_folder["cache", Digest.Hex]);
        }
    }

    [Fact]
    public async Task A_link_in_the_path_of_the_cache_is_no_other_run()
    {
        Directory.CreateDirectory(_folder["disk"], UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute);
        File.CreateSymbolicLink(_folder["cache"], _folder["disk"]);
        File.ReadAllBytes((await GetAsync(Cache(), Wanted("a"))).Path).ShouldBe(Bytes);
        _waits.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_half_that_is_a_link_is_not_followed()
    {
        Directory.CreateDirectory(_folder["cache"]);
        File.WriteAllText(_folder["precious"], "kept");
        File.CreateSymbolicLink(_folder["cache", Digest.Hex + ".part"], _folder["precious"]);
        await Should.ThrowAsync<IOException>(() => GetAsync(Cache(), Wanted("a")));
        File.ReadAllText(_folder["precious"]).ShouldBe("kept");
    }

    [Fact]
    public async Task A_cache_that_others_can_write_to_is_refused()
    {
        Directory.CreateDirectory(_folder["cache"]);
        File.SetUnixFileMode(_folder["cache"], (UnixFileMode)0x1FF);
        var refused = (await Should.ThrowAsync<ProblemException>(() => GetAsync(Cache(), Wanted("a")))).Problem;
        (refused.Code, refused.Why).ShouldBe((ProblemCode.Refused, "other users can write to it"));
        refused.Remedy.ToString().ShouldStartWith("chmod go-w ");
    }

    [Fact]
    public async Task A_file_that_was_exchanged_after_its_check_is_noticed()
    {
        var file = await GetAsync(Cache(), Wanted("a"));
        file.OpenUnchanged().ShouldNotBeNull().Dispose();
        File.WriteAllBytes(file.Path, Bytes);
        file.OpenUnchanged().ShouldBeNull("its content is the same, but it may have been another one meanwhile");
        File.Delete(file.Path);
        file.OpenUnchanged().ShouldBeNull();
    }

    [Fact]
    public async Task Mirrors_are_tried_in_turn_and_named_when_all_fail()
    {
        _server.Faults["gone"] = new ServerFault.Status(404);
        _server.Faults["false"] = new ServerFault.OtherFile([1]);
        var nowhere = new Uri("http://127.0.0.1:1/a");
        var file =
            await GetAsync(Cache(), Wanted("gone") with { Sources = [Address("gone"), nowhere, Address("false"), Address("b")] });
        File.ReadAllBytes(file.Path).ShouldBe(Bytes);
        _waits.ShouldBeEmpty("there is another mirror, and no reason to wait");

        File.Delete(file.Path);
        var problem = (await Should.ThrowAsync<ProblemException>(
            () => GetAsync(Cache(), Wanted("gone") with { Sources = [Address("gone"), nowhere, Address("false")] }))).Problem;
        problem.Code.ShouldBe(ProblemCode.NotVerified, "a false file says more than one that is away");
        problem.Details.Count.ShouldBe(3);
        problem.Details[0].ToString().ShouldBe($"{Address("gone")}: the server answers 404 Not Found");
        problem.Details[1].ToString().ShouldContain("the connection to 127.0.0.1:1 was refused");
    }

    [Fact]
    public async Task A_certificate_that_is_not_trusted_is_not_tried_again()
    {
        using var key = RSA.Create(2048);
        var request = new CertificateRequest("CN=127.0.0.1", key, HashAlgorithmName.SHA256, RSASignaturePadding.Pkcs1);
        using var certificate = request.CreateSelfSigned(DateTimeOffset.UtcNow.AddDays(-1), DateTimeOffset.UtcNow.AddDays(1));
        await using var server = await StaticServer.StartAsync(_folder["served"], default, certificate);
        var problem = (await Should.ThrowAsync<ProblemException>(
            () => GetAsync(Cache(), Wanted("a") with { Sources = [new Uri(server.Address, "a")] }))).Problem;
        (problem.Code, problem.Why, problem.Remedy).ShouldBe(
            (ProblemCode.Unreachable, "the server's certificate is not trusted on this machine", "check the address; where the "
                + "server is your own, add its authority to the system's"));
        _waits.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_cached_file_is_hashed_before_it_is_used_and_fetched_anew_where_it_was_altered()
    {
        await GetAsync(Cache(), Wanted("a"));
        await GetAsync(Cache(), Wanted("a"));
        Statuses().ShouldBe("200");
        var altered = Bytes.ToArray();
        altered[7]++;
        File.WriteAllBytes(_folder["cache", Digest.Hex], altered);
        File.ReadAllBytes((await GetAsync(Cache(), Wanted("a"))).Path).ShouldBe(Bytes);
        Statuses().ShouldBe("200 200");
    }

    [Fact]
    public async Task A_large_cached_file_is_there_at_once_and_checked_on_the_way()
    {
        var (large, patience) = (new byte[9 << 20], TimeSpan.FromMinutes(1));
        File.WriteAllBytes(_folder["served", "large"], large);
        var wanted = Wanted("large") with { Sha256 = Sha256Digest.FromBytes(SHA256.HashData(large)), Size = large.Length };
        (await (await Cache(patience).HaveAsync(wanted, null, default)).Check).ShouldNotBeNull();
        (await (await Cache(patience).HaveAsync(wanted, null, default)).Check).ShouldNotBeNull();
        large[12345] = 1;
        File.WriteAllBytes(_folder["cache", wanted.Sha256.Hex], large);
        (await (await Cache(patience).HaveAsync(wanted, null, default)).Check).ShouldBeNull("it has been altered");
        Statuses().ShouldBe("200");
    }

    [Fact]
    public async Task Several_that_want_the_same_file_fetch_it_once()
    {
        _server.Faults["a"] = new ServerFault.Slow(1_000_000);
        var files = await Task.WhenAll(Enumerable.Range(0, 4).Select(_ => GetAsync(Cache(), Wanted("a"))));
        files.ShouldAllBe(file => File.ReadAllBytes(file.Path).SequenceEqual(Bytes));
        Statuses().ShouldBe("200");
        _waits.ShouldContain("another run is downloading the same file");
    }

    [Fact]
    public async Task Where_only_a_digest_is_stated_any_size_will_do()
    {
        File.ReadAllBytes((await GetAsync(Cache(), Wanted("a") with { Size = null })).Path).ShouldBe(Bytes);
        _server.Faults["b"] = new ServerFault.OtherBytes();
        var other = Sha256Digest.FromBytes(SHA256.HashData([1]));
        (await Should.ThrowAsync<ProblemException>(() => GetAsync(Cache(), Wanted("b") with
        {
            Size = null,
            Sha256 = other,
        }))).Problem.Why.ShouldStartWith($"expected sha256 {other}; found sha256 ");
    }

    [Fact]
    public async Task The_bandwidth_is_shared_and_kept()
    {
        var begun = TimeProvider.System.GetTimestamp();
        var cache = Cache(("ACRATE_BANDWIDTH", "400000"));
        await GetAsync(cache, Wanted("a"));
        TimeProvider.System.GetElapsedTime(begun).TotalSeconds.ShouldBeGreaterThan(0.6);
    }

    [Fact]
    public async Task The_cache_keeps_to_its_limit_and_drops_what_was_not_used_for_longest()
    {
        var cache = Cache(("ACRATE_CACHE_SIZE", "700000"));
        await GetAsync(cache, Wanted("a"));
        foreach (var (name, days) in new[] { ("old", 30), ("recent", 1) })
        {
            var path = _folder["cache", Convert.ToHexStringLower(SHA256.HashData(System.Text.Encoding.UTF8.GetBytes(name)))];
            File.WriteAllBytes(path, new byte[300_000]);
            File.SetLastWriteTimeUtc(path, DateTime.UtcNow.AddDays(-days));
        }

        File.WriteAllText(_folder["cache", "fresh.part"], "half");
        File.WriteAllText(_folder["cache", "stale.part"], "half");
        File.SetLastWriteTimeUtc(_folder["cache", "stale.part"], DateTime.UtcNow.AddDays(-15));
        File.WriteAllText(_folder["cache", "somebody's"], "not ours");
        cache.Prune(new HashSet<Sha256Digest>());
        Kept().Count.ShouldBe(4, "the fresh one, the recent one, the fresh half, and what is not ours");
        Kept().ShouldContain(Digest.Hex);
        Cache(("ACRATE_CACHE_SIZE", "1")).Prune(new HashSet<Sha256Digest> { Digest });
        Kept().ShouldContain(Digest.Hex, "what has just been fetched for use stays");
    }

    [Fact]
    public async Task A_folder_that_cannot_be_written_is_named()
    {
        File.WriteAllText(_folder["cache"], "a file");
        await Should.ThrowAsync<IOException>(() => GetAsync(Cache(), Wanted("a")));
    }

    [Theory]
    [InlineData(1, null, 1.0)]
    [InlineData(2, null, 2.0)]
    [InlineData(4, null, 8.0)]
    [InlineData(5, null, null)]
    [InlineData(1, 30, 30.0)]
    [InlineData(4, 3, 8.0)]
    [InlineData(1, 3600, null)]
    public void Waits_grow_and_servers_are_heeded(int failed, int? asked, double? seconds) =>
        (RetryRule.Usual.WaitAfter(failed, asked is { } request ? TimeSpan.FromSeconds(request) : null)?.TotalSeconds).ShouldBe(
            seconds);

    private DownloadCache Cache(params (string Variable, string Value)[] set) => Cache(TimeSpan.FromMilliseconds(400), set);

    private DownloadCache Cache(TimeSpan timeout, params (string Variable, string Value)[] set)
    {
        var source = new SchemeSource(new FileSource(), new HttpSource(timeout));
        var variables = set.Append(("ACRATE_RETRY_WAIT", "0.001")).ToDictionary();
        var settings = new SettingsReader(_ => null, variables.GetValueOrDefault, []).Read();
        return new DownloadCache(_folder["cache"], source, settings, TimeProvider.System, () => { });
    }

    private Uri Address(string path) => new(_server.Address, path);

    private WantedFile Wanted(string path) => new("scrim-paint", Digest, Bytes.Length, [Address(path)]);

    private Task<VerifiedFile> GetAsync(DownloadCache cache, WantedFile wanted) =>
        cache.GetAsync(wanted, new TransferWatch(null, (_, why) =>
    {
        lock (_waits) _waits.Add(why);
    }), default);

    private string Statuses() => string.Join(' ', _server.Requests.Select(request => request.Status));

    private List<string> Kept() => Directory.Exists(_folder["cache"])
        ? [.. Directory.EnumerateFiles(_folder["cache"]).Select(file => Path.GetFileName(file))]
        : [];
}
