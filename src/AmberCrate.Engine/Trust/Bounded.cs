using AmberCrate.Core.Trust;

namespace AmberCrate.Engine.Trust;

/// <summary>Reads what others send, and no more of it than was agreed.</summary>
internal static class Bounded
{
    private const int BufferSize = 1 << 16;

    /// <summary>Reads to the end.</summary>
    /// <param name="stream">What to read.</param>
    /// <param name="most">The most bytes that there may be.</param>
    /// <param name="what">What it is, for messages.</param>
    /// <param name="step">The step of the specification.</param>
    /// <param name="cancel">Stops.</param>
    /// <exception cref="TrustException">More came.</exception>
    public static async Task<byte[]> ReadAsync(Stream stream, long most, string what, string step, CancellationToken cancel)
    {
        using var content = new MemoryStream();
        var buffer = new byte[BufferSize];
        for (int read; (read = await stream.ReadAsync(buffer, cancel)) > 0;)
        {
            if (content.Length + read > most)
                throw new TrustException($"length of {what}", $"at most {most} bytes were agreed, more came", step);
            content.Write(buffer, 0, read);
        }

        return content.ToArray();
    }
}
