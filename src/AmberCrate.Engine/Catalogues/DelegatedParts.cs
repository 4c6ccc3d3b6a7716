using System.Security.Cryptography;
using System.Text;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Trust;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Trust;

namespace AmberCrate.Engine.Catalogues;

/// <summary>
/// The parts of a catalogue that other maintainers have signed: apps whose ids were left to them, below those of the catalogue
/// itself. Where two of them have an app, the one who is named first goes before. What they say of other apps is passed over. A
/// maintainer whose signatures or parts are faulty does not stop the rest of the catalogue.
/// </summary>
internal sealed class DelegatedParts
{
    private readonly Uri _address;
    private readonly SignedTargets _targets;
    private readonly IReadOnlyList<Delegation> _delegations;
    private readonly Dictionary<string, FileRule> _documents = new(StringComparer.Ordinal);
    private readonly Dictionary<string, string> _failed;

    /// <summary>Finds out who has signed something.</summary>
    /// <param name="address">The address of the catalogue, ending in <c>/</c>.</param>
    /// <param name="targets">Opens what was signed.</param>
    /// <param name="trusted">What is believed.</param>
    /// <param name="failed">Those who are not believed now, with the reasons.</param>
    public DelegatedParts(
        Uri address, SignedTargets targets, TrustedMetadata trusted, IReadOnlyDictionary<string, string> failed)
    {
        (_address, _targets, _delegations) = (address, targets, trusted.Targets!.Delegations);
        _failed = _delegations.Where(delegation => failed.ContainsKey(delegation.Name))
            .ToDictionary(delegation => delegation.Name, delegation => failed[delegation.Name], StringComparer.Ordinal);
        foreach (var name in _delegations.Select(delegation => delegation.Name).Where(name => !_failed.ContainsKey(name)))
        {
            var path = $"{DelegatedApps.FolderOf(name)}/{DelegatedApps.Document}";
            if (trusted.TargetsOf(name)?.Targets.GetValueOrDefault(path) is { } document && trusted.Find(path) == document)
                _documents.Add(name, document);
        }
    }

    /// <summary>Whether anybody has.</summary>
    public bool Any => _documents.Count > 0 || _failed.Count > 0;

    /// <summary>What says whether anything has changed.</summary>
    public string Mark => string.Concat(_delegations.Select(one => _documents.TryGetValue(one.Name, out var document)
        ? $" {one.Name} {document.Sha256?.Hex ?? document.Sha512} {MarkOf(one)}"
        : _failed.ContainsKey(one.Name) ? $" {one.Name} not believed {MarkOf(one)}" : ""));

    /// <summary>The catalogue with their parts below its own.</summary>
    /// <param name="own">The catalogue without them.</param>
    /// <param name="cancel">Cancels the operation.</param>
    public async Task<CatalogueSnapshot> BelowAsync(CatalogueSnapshot own, CancellationToken cancel)
    {
        var parts = new List<PartContent>();
        var frozen = new List<(PartMaintainer Maintainer, int Place, string Why)>();
        for (var at = _delegations.Count - 1; at >= 0; at--)
        {
            var (delegation, place) = (_delegations[at], _delegations.Count - 1 - at);
            if (_failed.TryGetValue(delegation.Name, out var why))
                frozen.Add((MaintainerOf(delegation), place, why));
            if (!_documents.ContainsKey(delegation.Name)) continue;
            try
            {
                var folder = new Uri(_address, DelegatedApps.FolderOf(delegation.Name) + "/");
                var theirs = (await new PublishedCatalogue(folder, _targets).ReadAsync(null, cancel))!;
                parts.AddRange(theirs.Parts.Select(part => Limited(part, delegation, place)));
            }
            catch (Exception fault) when (fault is TrustException || SourceFault.IsOfSource(fault))
            {
                frozen.Add((MaintainerOf(delegation), place, WordsOf(fault)));
            }
        }

        parts.AddRange(own.Parts.Select(part => part with
        {
            Layer = part.Layer + (_delegations.Count * PartContent.LayersOfOne),
        }));
        return own with { Apps = null, Parts = parts, Frozen = frozen };
    }

    /// <summary>The reason in a few words, for the lists.</summary>
    internal static string WordsOf(Exception fault) => fault switch
    {
        TrustException check => $"{check.Check}: {check.Why}",
        ProblemException { Problem: var problem } => problem.Why.Length > 0 ? problem.Why : problem.What,
        _ when SourceFault.IsMissing(fault) => "a file of theirs is missing",
        _ => SourceFault.FromException(fault, new Uri("file:///")).Problem.Why,
    };

    /// <summary>A part with what may be said in it. Its key says who may say what: other patterns leave other lines.</summary>
    private static PartContent Limited(PartContent part, Delegation delegation, int place) => part with
    {
        Key = DigestOf($"{delegation.Name} {part.Key.Hex} {MarkOf(delegation)}"),
        Layer = part.Layer + (place * PartContent.LayersOfOne),
        Lines = null,
        Path = $"{DelegatedApps.FolderOf(delegation.Name)}/{part.Path}",
        Maintainer = MaintainerOf(delegation),
        Unpack = packed =>
        {
            using var kept = new MemoryStream();
            foreach (var line in PartText.Lines(part.Unpack(packed)))
            {
                if (!IsAllowed(line)) continue;
                kept.Write(line.Span);
                kept.WriteByte((byte)'\n');
            }

            return kept.ToArray();

            // A line that cannot be read stays: who reads the cards says which one it is.
            bool IsAllowed(ReadOnlyMemory<byte> line) =>
                CatalogueLine.TryRead(line.Span) is not { } said || DelegatedApps.IsLeftTo(delegation, said.Id);
        },
    };

    private static PartMaintainer MaintainerOf(Delegation delegation) => new(delegation.Name, MarkOf(delegation));

    /// <summary>A digest of their patterns and their keys.</summary>
    private static string MarkOf(Delegation delegation) => DigestOf(string.Join(
        '\n', delegation.Paths.Concat(delegation.HashPrefixes).Concat(delegation.Keys.KeyIds.Order(StringComparer.Ordinal))
            .Append($"{delegation.Keys.Threshold}"))).Hex[..16];

    private static Sha256Digest DigestOf(string text) =>
        Sha256Digest.FromBytes(SHA256.HashData(Encoding.UTF8.GetBytes(text)));
}
