namespace AmberCrate.Playhouse;

/// <summary>Something that goes wrong on the way from a server.</summary>
public abstract record ServerFault
{
    private ServerFault()
    {
    }

    /// <summary>The server answers with this status and nothing else.</summary>
    public sealed record Status(int Code) : ServerFault;

    /// <summary>The server answers with this status and asks to be left alone for a while.</summary>
    public sealed record Later(int Code, string RetryAfter) : ServerFault;

    /// <summary>Another fault for so many requests, and none after them.</summary>
    public sealed record First(int Count, ServerFault Fault) : ServerFault
    {
        private int _left = Count;

        /// <summary>The fault for the next request; null for none.</summary>
        public ServerFault? Next() => Interlocked.Decrement(ref _left) >= 0 ? Fault : null;
    }

    /// <summary>The server does not know ranges and sends the whole.</summary>
    public sealed record NoRanges : ServerFault;

    /// <summary>The server sends another range than asked for.</summary>
    public sealed record OtherRange : ServerFault;

    /// <summary>It sends a part from one byte later on than it says.</summary>
    public sealed record ShiftedRange : ServerFault;

    /// <summary>The server does not say how much comes.</summary>
    public sealed record NoLength : ServerFault;

    /// <summary>The server compresses on top, without having been asked.</summary>
    public sealed record Compressed : ServerFault;

    /// <summary>The server says that it compresses on top, and does not.</summary>
    public sealed record SaysCompressed : ServerFault;

    /// <summary>The bytes come slowly.</summary>
    public sealed record Slow(int BytesPerSecond) : ServerFault;

    /// <summary>Another file comes.</summary>
    public sealed record OtherFile(byte[] Bytes) : ServerFault;

    /// <summary>The connection breaks after half of the bytes.</summary>
    public sealed record CutShort : ServerFault;

    /// <summary>Half of the bytes come, and then nothing.</summary>
    public sealed record Stall : ServerFault;

    /// <summary>The server sends elsewhere.</summary>
    public sealed record Redirect(string To) : ServerFault;

    /// <summary>As many bytes come as expected, but others.</summary>
    public sealed record OtherBytes : ServerFault;
}
