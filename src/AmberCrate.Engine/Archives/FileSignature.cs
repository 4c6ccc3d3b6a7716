namespace AmberCrate.Engine.Archives;

/// <summary>The bytes that identify a file.</summary>
/// <param name="Word">What such a file is, with its article: "a zip file".</param>
/// <param name="Bytes">The bytes.</param>
internal sealed record FileSignature(string Word, byte[] Bytes)
{
    /// <summary>Where the magic of a tar archive is, after POSIX.1-2017 (ustar) and pax. The oldest archives have none.</summary>
    public const int TarMagic = 257;

    /// <summary>Where the bytes are, counted from the beginning of the file.</summary>
    public int At { get; init; }

    /// <summary>Whether a file has these bytes.</summary>
    /// <param name="start">The beginning of the file.</param>
    public bool IsIn(ReadOnlySpan<byte> start) => start.Length > At && start[At..].StartsWith(Bytes);

    /// <summary>Files that are no archives and are served instead of one.</summary>
    private static readonly FileSignature[] Others =
    [
        new("a program", [0x7F, (byte)'E', (byte)'L', (byte)'F']), new("a script", [.. "#!"u8]),
        new("a web page", [.. "<!DOCTYPE"u8]), new("a web page", [.. "<html"u8]),
    ];

    /// <summary>What a file is that does not begin as its format should; null where that is unknown.</summary>
    /// <param name="format">The format that its card names.</param>
    /// <param name="path">The file.</param>
    public static string? OtherThan(IArchiveFormat format, string path)
    {
        if (format.Signature is not { } own) return null;
        var start = new byte[TarMagic + 16];
        using var file = File.OpenRead(path);
        var length = file.ReadAtLeast(start, start.Length, throwOnEndOfStream: false);
        var found = ArchiveFormats.All.Select(other => other.Signature)
            .OfType<FileSignature>()
            .Concat(Others)
            .FirstOrDefault(known => known.IsIn(start.AsSpan(0, length)));
        return found is null || found.Bytes.SequenceEqual(own.Bytes) ? null : found.Word;
    }
}
