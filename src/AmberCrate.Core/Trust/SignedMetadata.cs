using System.Text.Json;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Trust;

/// <summary>Metadata with its signatures, as they were read and not yet believed.</summary>
public sealed class SignedMetadata
{
    private const int MostSignatures = 200;

    private SignedMetadata(JsonElement content, byte[] canonical, IReadOnlyList<(string KeyId, byte[] Signature)> signatures) =>
        (Content, Canonical, Signatures) = (content, canonical, signatures);

    /// <summary>What is signed.</summary>
    public JsonElement Content { get; }

    /// <summary>The bytes that are signed.</summary>
    public byte[] Canonical { get; }

    /// <summary>The signatures, each with the id of its key. No id comes twice.</summary>
    public IReadOnlyList<(string KeyId, byte[] Signature)> Signatures { get; }

    /// <summary>Reads a file of metadata.</summary>
    /// <exception cref="MalformedException">It is none.</exception>
    public static SignedMetadata Read(ReadOnlyMemory<byte> bytes)
    {
        using var document = CanonicalJson.Read(bytes);
        return ForeignText.Read("the metadata", () => Parse(document));
    }

    private static SignedMetadata Parse(JsonDocument document)
    {
        var root = MetadataReader.Object(document.RootElement, "the file");
        var signed = MetadataReader.Object(MetadataReader.Member(root, "signed"), "signed").Clone();
        var signatures = new List<(string, byte[])>();
        foreach (var item in MetadataReader.Items(root, "signatures", MostSignatures))
        {
            var id = MetadataReader.Text(item, "keyid");
            if (signatures.Exists(known => known.Item1 == id))
                throw new MalformedException($"signatures: the key {id} is there twice");
            signatures.Add((id, Bytes(MetadataReader.Text(item, "sig"))));
        }

        return new SignedMetadata(signed, CanonicalJson.Write(signed), signatures);
    }

    private static byte[] Bytes(string hex)
    {
        try
        {
            return Convert.FromHexString(hex);
        }
        catch (FormatException fault)
        {
            throw new MalformedException("sig: expected hexadecimal digits", fault);
        }
    }
}
