using System.Security.Cryptography;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Publishing;

/// <summary>What has been published to a folder before.</summary>
internal sealed class EarlierPublication
{
    private readonly Dictionary<string, Sha256Digest?> _lines = new(StringComparer.Ordinal);
    private readonly List<HashSet<string>> _layers = [];

    private EarlierPublication(CatalogueDocument document) => Document = document;

    /// <summary>The entry document.</summary>
    public CatalogueDocument Document { get; }

    /// <summary>The ids that each layer tells about.</summary>
    public IReadOnlyList<IReadOnlyCollection<string>> Layers => _layers;

    /// <summary>
    /// Reads what has been published to a folder; null where that is nothing, or not whole, so that nothing can be built on it.
    /// </summary>
    public static EarlierPublication? Read(string folder)
    {
        try
        {
            return DocumentIn(folder) is { } document ? Read(folder, document) : null;
        }
        catch (Exception fault) when (IoProblems.IsExpected(fault))
        {
            return null;
        }
    }

    /// <summary>Reads what an entry document names.</summary>
    /// <exception cref="MalformedException">A part is not what it should be.</exception>
    public static EarlierPublication Read(string folder, CatalogueDocument document)
    {
        var earlier = new EarlierPublication(document);
        foreach (var part in earlier.Document.Parts) earlier.Add(part, folder);
        return earlier;
    }

    /// <summary>The apps that it offers, each with the digest of what it says of them.</summary>
    public IReadOnlyDictionary<string, Sha256Digest> Apps => _lines.Where(line => line.Value is not null)
        .ToDictionary(line => line.Key, line => line.Value!, StringComparer.Ordinal);

    /// <summary>The entry document in a folder; null where there is none that can be read.</summary>
    public static CatalogueDocument? DocumentIn(string folder)
    {
        try
        {
            return CatalogueDocument.Read(File.ReadAllBytes(Path.Combine(folder, CatalogueDocument.FileName)));
        }
        catch (Exception fault) when (IoProblems.IsExpected(fault))
        {
            return null;
        }
    }

    /// <summary>The ids that are new, changed or gone.</summary>
    /// <param name="lines">The lines of the catalogue as it is now, by id.</param>
    public HashSet<string> Differing(Dictionary<string, byte[]> lines)
    {
        var changed = lines.Where(line => _lines.GetValueOrDefault(line.Key) != DigestOf(line.Value))
            .Select(line => line.Key)
            .ToHashSet(StringComparer.Ordinal);
        changed.UnionWith(_lines.Where(line => line.Value is not null && !lines.ContainsKey(line.Key)).Select(line => line.Key));
        return changed;
    }

    private void Add(PartListing part, string folder)
    {
        while (_layers.Count <= part.Layer) _layers.Add(new HashSet<string>(StringComparer.Ordinal));
        var packed = File.ReadAllBytes(Path.Combine(folder, part.Path));
        if (Sha256Digest.FromBytes(SHA256.HashData(packed)) != part.Sha256)
            throw new MalformedException($"{part.Path} does not verify");
        foreach (var bytes in PartText.Lines(PartText.Unpack(part, packed)))
        {
            var line = CatalogueLine.Read(bytes.Span);
            _layers[part.Layer].Add(line.Id.Text);
            _lines[line.Id.Text] = line.Card is null ? null : DigestOf(bytes.Span);
        }
    }

    private static Sha256Digest? DigestOf(ReadOnlySpan<byte> line) => Sha256Digest.FromBytes(SHA256.HashData(line));
}
