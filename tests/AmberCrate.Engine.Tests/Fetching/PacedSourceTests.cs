using AmberCrate.Engine.Fetching;

namespace AmberCrate.Engine.Tests.Fetching;

/// <summary>A server that sends one byte now and then keeps nothing busy for ever.</summary>
public sealed class PacedSourceTests
{
    [Theory]
    [InlineData(1, 2, "the server is too slow: 16 bytes in 32 seconds")]
    [InlineData(1000, 2, "the server is too slow: 16000 bytes in 32 seconds")]
    [InlineData(4096, 2, null)]
    [InlineData(1, 0, null)]
    public async Task A_download_has_a_least_average_speed(int bytes, int seconds, string? says)
    {
        var clock = new SteppedClock();
        var source = new PacedSource(new Dripping(bytes, TimeSpan.FromSeconds(seconds), clock), TimeSpan.FromSeconds(30), clock);
        using var content = (await source.OpenAsync(new FetchRequest(new Uri("http://127.0.0.1/a")), default))!;
        var reading = () => content.Stream.CopyToAsync(Stream.Null, TestContext.Current.CancellationToken);
        if (says is null) await reading();
        else (await Should.ThrowAsync<TimeoutException>(reading)).Message.ShouldBe(says);
    }

    private sealed class SteppedClock : TimeProvider
    {
        public TimeSpan Elapsed { get; set; }

        public override long GetTimestamp() => Elapsed.Ticks;

        public override long TimestampFrequency => TimeSpan.TicksPerSecond;
    }

    /// <summary>Each read gives a few bytes and takes some seconds.</summary>
    private sealed class Dripping(int bytes, TimeSpan step, SteppedClock clock) : IByteSource
    {
        public Task<FetchedContent?> OpenAsync(FetchRequest request, CancellationToken cancel) =>
            Task.FromResult<FetchedContent?>(new FetchedContent(new Drops(bytes, step, clock), null));

        private sealed class Drops(int bytes, TimeSpan step, SteppedClock clock) : MemoryStream(new byte[200_000])
        {
            public override ValueTask<int> ReadAsync(Memory<byte> buffer, CancellationToken cancellationToken = default)
            {
                clock.Elapsed += step;
                return base.ReadAsync(buffer[..Math.Min(bytes, buffer.Length)], cancellationToken);
            }
        }
    }
}
