using AmberCrate.Core.Trust;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Fetching;

namespace AmberCrate.Engine.Trust;

/// <summary>
/// The files of a signed catalogue: what is opened is what was signed, to the last byte, or it is not opened. Files whose names
/// begin with their digest are targets without it.
/// </summary>
/// <param name="address">The address of the catalogue, ending in <c>/</c>.</param>
/// <param name="mirrors">Where the same files lie, too; these are asked first.</param>
/// <param name="inner">Opens addresses.</param>
/// <param name="find">Finds what a target must be; null for other paths.</param>
/// <param name="isConsistent">Whether files have their digest in their names.</param>
internal sealed class SignedTargets(
    Uri address, IReadOnlyList<Uri> mirrors, IByteSource inner, Func<string, FileRule?> find, bool isConsistent) : IByteSource
{
    private const long MostBytes = 64L << 20;

    /// <inheritdoc/>
    public async Task<FetchedContent?> OpenAsync(FetchRequest request, CancellationToken cancel)
    {
        var path = Uri.UnescapeDataString(address.MakeRelativeUri(request.Address).ToString());
        var (target, file) = NamesOf(path);
        var rule = find(target)
            ?? throw new TrustException($"target {target}", "no file of this name is signed", "5.7.1");
        foreach (var mirror in mirrors)
        {
            try
            {
                return await OpenAsync(mirror, target, file, rule, cancel);
            }
            catch (Exception fault) when (fault is TrustException || SourceFault.IsOfSource(fault))
            {
                // It lacks the file, cannot be reached, or has other bytes: the next one, and at last the catalogue itself.
            }
        }

        return await OpenAsync(address, target, file, rule, cancel);
    }

    private async Task<FetchedContent?> OpenAsync(
        Uri place, string target, string file, FileRule rule, CancellationToken cancel)
    {
        using var content = await inner.OpenAsync(new FetchRequest(new Uri(place, file)), cancel);
        var bytes = await BoundedRead.ReadSignedAsync(content!.Stream, Math.Min(rule.Length ?? MostBytes, MostBytes),
            $"target {target}", "5.7.3", cancel);
        TrustedMetadata.RequireFile(bytes, rule, $"target {target}", "5.7.3");
        return new FetchedContent(new MemoryStream(bytes, writable: false), null) { Length = bytes.Length };
    }

    /// <summary>The file that has a target.</summary>
    public string FileOf(string target) => NamesOf(target).File;

    /// <summary>The target that a path means, and the file that has it.</summary>
    private (string Target, string File) NamesOf(string path)
    {
        var slash = path.LastIndexOf('/') + 1;
        var (folder, name) = (path[..slash], path[slash..]);
        var dot = name.IndexOf('.', StringComparison.Ordinal);
        if (dot > 0 && Sha256Digest.TryParse(name[..dot], out _)) return (folder + name[(dot + 1)..], path);
        return isConsistent && find(path)?.Sha256 is { } digest ? (path, $"{folder}{digest.Hex}.{name}") : (path, path);
    }
}
