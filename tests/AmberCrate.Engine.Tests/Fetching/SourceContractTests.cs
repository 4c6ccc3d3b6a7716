using AmberCrate.Core.Problems;
using AmberCrate.Engine.Fetching;
using AmberCrate.Playhouse;

namespace AmberCrate.Engine.Tests.Fetching;

/// <summary>
/// What every source keeps to, whatever is put around whatever: the plain ones, the decorators, and a fault injector with its
/// faults off.
/// </summary>
public sealed class SourceContractTests : IAsyncLifetime
{
    private static readonly byte[] Bytes = [.. Enumerable.Range(0, 70_000).Select(at => (byte)(at * 7))];
    private readonly TemporaryFolder _folder = new();
    private readonly HttpSource _http = new(TimeSpan.FromSeconds(10));
    private StaticServer _server = null!;

    public static TheoryData<string> Sources =>
        ["file", "http", "scheme", "limited", "mirrored", "retried", "faulty with its faults off", "all together"];

    public async ValueTask InitializeAsync()
    {
        File.WriteAllBytes(_folder["a"], Bytes);
        _server = await StaticServer.StartAsync(_folder.Path);
    }

    public async ValueTask DisposeAsync()
    {
        _http.Dispose();
        await _server.DisposeAsync();
        _folder.Dispose();
    }

    [Theory]
    [MemberData(nameof(Sources))]
    public async Task The_whole_comes_with_its_length_from_the_beginning(string name)
    {
        using var content = (await Make(name).OpenAsync(new FetchRequest(Address(name, "a")), default)).ShouldNotBeNull();
        (content.From, content.Length).ShouldBe((0L, (long?)Bytes.Length));
        (await ReadAsync(content)).ShouldBe(Bytes);
    }

    [Theory]
    [MemberData(nameof(Sources))]
    public async Task A_part_begins_where_it_says_and_reaches_to_the_end(string name)
    {
        using var content = (await Make(name).OpenAsync(
            new FetchRequest(Address(name, "a")) { From = 60_000, WholeLength = Bytes.Length }, default)).ShouldNotBeNull();
        (await ReadAsync(content)).ShouldBe(Bytes[(int)content.From..]);
        content.From.ShouldBe(60_000);
    }

    [Theory]
    [MemberData(nameof(Sources))]
    public async Task What_is_known_already_is_not_sent_again(string name)
    {
        using var first = (await Make(name).OpenAsync(new FetchRequest(Address(name, "a")), default)).ShouldNotBeNull();
        var mark = first.Mark.ShouldNotBeNull();
        (await Make(name).OpenAsync(new FetchRequest(Address(name, "a")) { KnownMark = mark }, default)).ShouldBeNull();
        File.WriteAllBytes(_folder["a"], [1, 2, 3]);
        using var changed =
            (await Make(name).OpenAsync(new FetchRequest(Address(name, "a")) { KnownMark = mark }, default)).ShouldNotBeNull();
        (await ReadAsync(changed)).ShouldBe([1, 2, 3]);
    }

    [Theory]
    [MemberData(nameof(Sources))]
    public async Task What_is_not_there_is_told_as_the_fault_of_the_source(string name)
    {
        var fault =
            await Record.ExceptionAsync(() => Make(name, "gone").OpenAsync(new FetchRequest(Address(name, "gone")), default));
        SourceFault.IsOfSource(fault.ShouldNotBeNull()).ShouldBeTrue(fault.ToString());
        SourceFault.FromException(fault, Address(name, "gone")).IsHopeless.ShouldBeTrue();
    }

    [Theory]
    [MemberData(nameof(Sources))]
    public async Task A_call_that_is_stopped_opens_nothing(string name)
    {
        var fault = await Record.ExceptionAsync(
            () => Make(name).OpenAsync(new FetchRequest(Address(name, "a")), new CancellationToken(canceled: true)));
        fault.ShouldBeAssignableTo<OperationCanceledException>();
    }

    [Fact]
    public async Task A_passing_fault_is_tried_again_and_mirrors_take_their_turn()
    {
        var waits = new List<string>();
        var faulty = new FaultySource(Scheme()) { Faults = 3 };
        var mirrored = new MirroredSource(faulty, [(_server.Address, null), (new Uri(_server.Address, "a"), null)]);
        var source = new RetriedSource(
            mirrored, new RetryRule(5, TimeSpan.FromMilliseconds(1)), TimeProvider.System, (_, why) => waits.Add(why));
        using var content = (await source.OpenAsync(new FetchRequest(_server.Address), default)).ShouldNotBeNull();
        (await ReadAsync(content)).ShouldBe(Bytes);
        (waits.Count, faulty.Calls).ShouldBe((1, 4));
    }

    [Fact]
    public async Task Tries_come_to_an_end_with_their_number_and_the_last_reason()
    {
        var source = new RetriedSource(
            new FaultySource(Scheme()) { Faults = 99 }, new RetryRule(3, TimeSpan.FromMilliseconds(1)), TimeProvider.System,
            null);
        var refused = (await Should.ThrowAsync<ProblemException>(
            () => source.OpenAsync(new FetchRequest(new Uri(_server.Address, "a")), default))).Problem;
        (refused.Code, refused.Why).ShouldBe((ProblemCode.Unreachable, "the connection broke; tried 3 times"));
    }

    private static async Task<byte[]> ReadAsync(FetchedContent content)
    {
        using var all = new MemoryStream();
        var buffer = new byte[5000];
        for (int read; (read = await content.Stream.ReadAsync(buffer)) > 0;) all.Write(buffer, 0, read);
        return all.ToArray();
    }

    private SchemeSource Scheme() => new(new FileSource(), _http);

    private Uri Address(string name, string path) =>
        name == "file" ? new Uri($"file://{_folder[path]}") : new Uri(_server.Address, path);

    private IByteSource Make(string name, string path = "a") => name switch
    {
        "file" => new FileSource(),
        "http" => _http,
        "scheme" => Scheme(),
        "limited" => Limited(Scheme()),
        "mirrored" => new MirroredSource(Scheme(), [(Address(name, path), null)]),
        "retried" => Retried(Scheme()),
        "faulty with its faults off" => new FaultySource(Scheme()),
        _ => Retried(new MirroredSource(Limited(new FaultySource(Scheme())), [(Address(name, path), null)])),
    };

    private static LimitedSource Limited(IByteSource inner) => new(inner, new Bandwidth(10_000_000, TimeProvider.System));

    private static RetriedSource Retried(IByteSource inner) => new(inner, RetryRule.Usual, TimeProvider.System, null);

    /// <summary>Fails as often as it is told, for a reason that passes.</summary>
    private sealed class FaultySource(IByteSource inner) : IByteSource
    {
        public int Faults { get; init; }

        public int Calls { get; private set; }

        public Task<FetchedContent?> OpenAsync(FetchRequest request, CancellationToken cancel) =>
            ++Calls <= Faults
                ? Task.FromException<FetchedContent?>(new HttpRequestException("the connection broke"))
                : inner.OpenAsync(request, cancel);
    }
}
