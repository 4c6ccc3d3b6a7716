using AmberCrate.Core.Trust;

namespace AmberCrate.Engine.Fetching;

/// <summary>Reads what others send, and no more of it than was agreed.</summary>
internal static class BoundedRead
{
    private const int BufferSize = 1 << 16;

    /// <summary>Reads a signed file to its end, within the length that was agreed.</summary>
    /// <param name="stream">The content.</param>
    /// <param name="most">The most bytes that there may be.</param>
    /// <param name="what">What it is, for messages.</param>
    /// <param name="step">The step of the specification.</param>
    /// <param name="cancel">Cancels the operation.</param>
    /// <exception cref="TrustException">More bytes came.</exception>
    public static async Task<byte[]> ReadSignedAsync(
        Stream stream, long most, string what, string step, CancellationToken cancel) =>
        await ToEndAsync(stream, most, cancel)
            ?? throw new TrustException($"length of {what}", $"at most {most} bytes were agreed, more came", step);

    /// <summary>Reads to the end; null where more came than was agreed.</summary>
    /// <param name="stream">What to read.</param>
    /// <param name="most">The most bytes that there may be.</param>
    /// <param name="cancel">Cancels the operation.</param>
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
