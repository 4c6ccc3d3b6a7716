using System.Buffers;
using System.Diagnostics.CodeAnalysis;

namespace AmberCrate.Core.Values;

/// <summary>A SHA-256 digest (FIPS 180-4), written as 64 lower-case hexadecimal digits.</summary>
public sealed record Sha256Digest
{
    /// <summary>What a digest must look like, for messages.</summary>
    public const string Expected = "a SHA-256 digest of 64 lower-case hexadecimal digits";

    private static readonly SearchValues<char> Digits = SearchValues.Create("0123456789abcdef");

    private Sha256Digest(string hex) => Hex = hex;

    /// <summary>The 64 digits.</summary>
    public string Hex { get; }

    /// <summary>Makes a digest of its 32 bytes.</summary>
    public static Sha256Digest FromBytes(ReadOnlySpan<byte> bytes) => new(Convert.ToHexStringLower(bytes));

    /// <summary>Reads a digest; false when it is not one.</summary>
    public static bool TryParse(string text, [NotNullWhen(true)] out Sha256Digest? digest)
    {
        digest = text.Length == 64 && !text.AsSpan().ContainsAnyExcept(Digits) ? new Sha256Digest(text) : null;
        return digest is not null;
    }

    /// <summary>Reads a digest.</summary>
    /// <exception cref="MalformedException">The text is not a digest.</exception>
    public static Sha256Digest Parse(string text) =>
        TryParse(text, out var digest) ? digest : throw new MalformedException($"expected {Expected}, found \"{text}\"");

    /// <inheritdoc/>
    public override string ToString() => Hex;
}
