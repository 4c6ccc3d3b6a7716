using AmberCrate.Core.Trust;
using AmberCrate.Engine.Fetching;

namespace AmberCrate.Engine.Trust;

/// <summary>Reads what is signed within the length that was agreed.</summary>
internal static class Bounded
{
    /// <summary>Reads to the end.</summary>
    /// <param name="stream">What to read.</param>
    /// <param name="most">The most bytes that there may be.</param>
    /// <param name="what">What it is, for messages.</param>
    /// <param name="step">The step of the specification.</param>
    /// <param name="cancel">Stops.</param>
    /// <exception cref="TrustException">More came.</exception>
    public static async Task<byte[]> ReadAsync(Stream stream, long most, string what, string step, CancellationToken cancel) =>
        await BoundedRead.ToEndAsync(stream, most, cancel)
            ?? throw new TrustException($"length of {what}", $"at most {most} bytes were agreed, more came", step);
}
