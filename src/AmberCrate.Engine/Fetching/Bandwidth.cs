namespace AmberCrate.Engine.Fetching;

/// <summary>
/// Shares a number of bytes a second among everything that is read: whoever takes bytes waits until they are due.
/// </summary>
/// <param name="bytesPerSecond">The limit.</param>
/// <param name="clock">The clock, and waits.</param>
internal sealed class Bandwidth(long bytesPerSecond, TimeProvider clock)
{
    private readonly Lock _guard = new();
    private long _freeAt = clock.GetTimestamp();

    /// <summary>How many bytes to ask for at most at a time, so that the flow stays even.</summary>
    public int Portion { get; } = (int)Math.Clamp(bytesPerSecond / 10, 512, 1 << 17);

    /// <summary>Waits until this many bytes may have been read.</summary>
    public async ValueTask TakeAsync(int bytes, CancellationToken cancel)
    {
        TimeSpan wait;
        lock (_guard)
        {
            var now = clock.GetTimestamp();
            _freeAt = Math.Max(_freeAt, now) + (long)((double)bytes / bytesPerSecond * clock.TimestampFrequency);
            wait = clock.GetElapsedTime(now, _freeAt);
        }

        if (wait > TimeSpan.Zero) await Task.Delay(wait, clock, cancel);
    }
}
