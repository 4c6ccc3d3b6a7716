using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Trust;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Trust;

namespace AmberCrate.Engine.Catalogues;

/// <summary>
/// A published catalogue that is signed: what is believed is brought up to date first, and then only files are read that were
/// signed. Nothing else knows of signatures.
/// </summary>
/// <param name="address">Its address, ending in <c>/</c>.</param>
/// <param name="bytes">Opens addresses.</param>
/// <param name="trust">What is believed of signed catalogues.</param>
/// <param name="root">The digest of the root that was trusted first.</param>
/// <param name="mirrors">Where the same files lie, too: asked first for what is large, and for metadata where the catalogue
/// itself cannot be reached. They are trusted no more than the network.</param>
public sealed class SignedCatalogue(
    Uri address, IByteSource bytes, TrustStore trust, Sha256Digest root, IReadOnlyList<Uri> mirrors) : ICatalogueSource
{
    private const string ClockHint = "check the clock of this machine; if it is right, report this to the maintainer";

    /// <inheritdoc/>
    public async Task<CatalogueSnapshot?> ReadAsync(string? knownMark, CancellationToken cancel)
    {
        try
        {
            var (trusted, targets, failed) = await trust.RefreshAsync(address, mirrors, bytes, root, cancel);
            var document = trusted.Find(CatalogueDocument.FileName)
                ?? throw new TrustException(
                    $"target {CatalogueDocument.FileName}", "the entry document is not signed", "5.7.1");

            // The mark is the digests that were signed: while they are the same, so is everything that they name.
            var others = new DelegatedParts(address, targets, trusted, failed);
            var mark = $"signed {document.Sha256?.Hex ?? document.Sha512}{others.Mark}";
            if (mark == knownMark) return null;
            var snapshot = (await new PublishedCatalogue(address, targets).ReadAsync(null, cancel))!;
            if (others.Any) snapshot = await others.BelowAsync(snapshot, cancel);
            return snapshot with
            {
                Mark = mark,
                Parts = [.. snapshot.Parts.Select(Explained)],
                Bundles = [.. snapshot.Bundles.Select(Explained)],
            };
        }
        catch (TrustException fault)
        {
            throw Failed(fault).ToException(fault);
        }
    }

    private PartContent Explained(PartContent part) => part with { FetchAsync = Explained(part.FetchAsync) };

    private BundleContent Explained(BundleContent bundle) => bundle with { FetchAsync = Explained(bundle.FetchAsync) };

    private Func<CancellationToken, Task<byte[]>> Explained(Func<CancellationToken, Task<byte[]>> fetch) => async cancel =>
    {
        try
        {
            return await fetch(cancel);
        }
        catch (TrustException fault)
        {
            throw Failed(fault).ToException(fault);
        }
    };

    private Problem Failed(TrustException fault) => new(
        fault is ExpiredTrustException ? ProblemCode.Expired : ProblemCode.NotVerified,
        $"the catalogue at {SourceFault.Shown(address)} does not verify: {fault.Check}",
        $"{fault.Why} (The Update Framework 1.0, {fault.Step})",
        fault is ExpiredTrustException
            ? ClockHint
            : "it may have been changed on the way: report this to its maintainer");
}
