namespace AmberCrate.Playhouse;

/// <summary>Something that goes wrong on the way from a server.</summary>
public abstract record ServerFault
{
    private ServerFault()
    {
    }

    /// <summary>The server answers with this status and nothing else.</summary>
    public sealed record Status(int Code) : ServerFault;

    /// <summary>The connection breaks after half of the bytes.</summary>
    public sealed record CutShort : ServerFault;

    /// <summary>Half of the bytes come, and then nothing.</summary>
    public sealed record Stall : ServerFault;

    /// <summary>The server sends elsewhere.</summary>
    public sealed record Redirect(string To) : ServerFault;

    /// <summary>As many bytes come as expected, but others.</summary>
    public sealed record OtherBytes : ServerFault;
}
