using System.Security.Cryptography;
using System.Text;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Trust;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Trust;

namespace AmberCrate.Engine.Catalogues;

/// <summary>
/// The parts of a catalogue that other maintainers have signed: apps whose ids were left to them, below those of the catalogue
/// itself. Where two of them have an app, the one who is named first goes before. What they say of other apps is passed over.
/// </summary>
internal sealed class DelegatedParts
{
    private readonly Uri _address;
    private readonly SignedTargets _targets;
    private readonly List<(Delegation Delegation, FileRule Document)> _others;

    /// <summary>Finds out who has signed something.</summary>
    /// <param name="address">The address of the catalogue, ending in <c>/</c>.</param>
    /// <param name="targets">Opens what was signed.</param>
    /// <param name="trusted">What is believed.</param>
    public DelegatedParts(Uri address, SignedTargets targets, TrustedMetadata trusted)
    {
        (_address, _targets) = (address, targets);
        _others =
        [
            .. from delegation in trusted.Targets!.Delegations
               let document = trusted.TargetsOf(delegation.Name)?.Targets
                   .GetValueOrDefault($"{DelegatedApps.FolderOf(delegation.Name)}/{DelegatedApps.Document}")
               where document is not null && trusted.Find(
                   $"{DelegatedApps.FolderOf(delegation.Name)}/{DelegatedApps.Document}") == document
               select (delegation, document),
        ];
    }

    /// <summary>Whether anybody has.</summary>
    public bool Any => _others.Count > 0;

    /// <summary>What tells whether anything has changed.</summary>
    public string Mark => string.Concat(_others.Select(
        one => $" {one.Delegation.Name} {one.Document.Sha256?.Hex ?? one.Document.Sha512} {PatternMark(one.Delegation)}"));

    /// <summary>The catalogue with their parts below its own.</summary>
    /// <param name="own">The catalogue without them.</param>
    /// <param name="cancel">Stops.</param>
    public async Task<CatalogueSnapshot> BelowAsync(CatalogueSnapshot own, CancellationToken cancel)
    {
        var parts = new List<PartContent>();
        for (var at = _others.Count - 1; at >= 0; at--)
        {
            var delegation = _others[at].Delegation;
            var place = new Uri(_address, DelegatedApps.FolderOf(delegation.Name) + "/");
            var theirs = (await new PublishedCatalogue(place, _targets).ReadAsync(null, cancel))!;
            parts.AddRange(theirs.Parts.Select(part => Limited(part, delegation, _others.Count - 1 - at)));
        }

        parts.AddRange(own.Parts.Select(part => part with { Layer = part.Layer + (_others.Count * PartContent.LayersOfOne) }));
        return own with { Apps = null, Parts = parts };
    }

    /// <summary>A part with what may be said in it. Its key tells who may say what: other patterns leave other lines.</summary>
    private static PartContent Limited(PartContent part, Delegation delegation, int place) => part with
    {
        Key = DigestOf($"{delegation.Name} {part.Key.Hex} {PatternMark(delegation)}"),
        Layer = part.Layer + (place * PartContent.LayersOfOne),
        Lines = null,
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

            // A line that cannot be read stays: who reads the cards tells which one it is.
            bool IsAllowed(ReadOnlyMemory<byte> line)
            {
                try
                {
                    return DelegatedApps.IsLeftTo(delegation, CatalogueLine.Read(line.Span).Id);
                }
                catch (MalformedException)
                {
                    return true;
                }
            }
        },
    };

    private static string PatternMark(Delegation delegation) =>
        DigestOf(string.Join('\n', delegation.Paths.Concat(delegation.HashPrefixes))).Hex[..16];

    private static Sha256Digest DigestOf(string text) =>
        Sha256Digest.FromBytes(SHA256.HashData(Encoding.UTF8.GetBytes(text)));
}
