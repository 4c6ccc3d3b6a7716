namespace AmberCrate.Engine.Fetching;

/// <summary>Reads what others send, and no more of it than was agreed.</summary>
internal static class BoundedRead
{
    private const int BufferSize = 1 << 16;

    /// <summary>Reads to the end; null where more came than was agreed.</summary>
    /// <param name="stream">What to read.</param>
    /// <param name="most">The most bytes that there may be.</param>
    /// <param name="cancel">Stops.</param>
    public static async Task<byte[]?> ToEndAsync(Stream stream, long most, CancellationToken cancel)
    {
        using var content = new MemoryStream();
        var buffer = new byte[BufferSize];
        for (int read; (read = await stream.ReadAsync(buffer, cancel)) > 0;)
        {
            if (content.Length + read > most) return null;
            content.Write(buffer, 0, read);
        }

        return content.ToArray();
    }
}
