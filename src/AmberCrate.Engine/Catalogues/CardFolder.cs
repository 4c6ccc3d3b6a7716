using System.IO.Enumeration;
using System.Security.Cryptography;
using AmberCrate.Core.CardFiles;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Catalogues;

/// <summary>A folder of cards, as a maintainer writes it.</summary>
public sealed class CardFolder(string folder) : ICatalogueSource
{
    private const long MaxCardSize = 4 << 20;

    /// <summary>Reads every card of the folder and of the folders in it. All faults of all files are found in one pass.</summary>
    /// <exception cref="ProblemException">A card has faults, two have one id, or there is none.</exception>
    public (CatalogueSettings Settings, IReadOnlyList<AppCard> Cards) Read()
    {
        var faults = new List<FormatFault>();
        var settings = ReadSettings(faults);
        var cards = new SortedDictionary<string, (string File, AppCard Card)>(StringComparer.Ordinal);
        var files = FindCards().Order(StringComparer.Ordinal).ToList();
        foreach (var path in files)
        {
            var file = Path.GetRelativePath(folder, path);
            if (CardReader.Read(ReadText(path, file, faults), file, faults) is not { } card) continue;
            if (!cards.TryAdd(card.Id.Text, (file, card)))
                faults.Add(new FormatFault(
                    file, 1, "id", $"expected each id once, found \"{card.Id}\" in {cards[card.Id.Text].File} too"));
        }

        if (faults.Count > 0) throw Faulty(faults).ToException();
        if (files.Count == 0) throw new Problem(
            ProblemCode.NothingMatched,
            $"{folder} holds no app cards",
            $"no file in it ends in {AppCard.FileEnding}").ToException();
        return (settings, [.. cards.Values.Select(pair => pair.Card)]);
    }

    /// <inheritdoc/>
    public Task<CatalogueSnapshot?> ReadAsync(string? knownMark, CancellationToken cancel) =>
        Task.FromResult<CatalogueSnapshot?>(ReadSnapshot());

    /// <summary>The folder as a catalogue, divided as <c>catalogue build</c> would divide it.</summary>
    private CatalogueSnapshot ReadSnapshot()
    {
        var (settings, cards) = Read();
        var parts = PartDivision.Divide(cards)
            .Select(part => new PartContent(
                Sha256Digest.FromBytes(SHA256.HashData(part.Content)), 0, part.Lines, _ => Task.FromResult(part.Content),
                content => content))
            .ToList();
        return new CatalogueSnapshot(settings, FileAddress.OfFolder(folder), null, cards.Count, parts)
        {
            Bundles = [.. new BundleFolder(folder).Read(cards).Select(
                bundle => new BundleContent(bundle.Listing, _ => Task.FromResult(bundle.Text)))],
        };
    }

    /// <summary>
    /// Cards in the folder and in the folders in it; links to folders are not followed, since they can lead in circles.
    /// </summary>
    internal FileSystemEnumerable<string> FindCards() => new(
        folder, (ref FileSystemEntry entry) => entry.ToFullPath(),
        new EnumerationOptions { RecurseSubdirectories = true, AttributesToSkip = FileAttributes.None })
    {
        ShouldIncludePredicate = (ref FileSystemEntry entry) => !entry.IsDirectory
            && entry.FileName.EndsWith(AppCard.FileEnding, StringComparison.Ordinal),
        ShouldRecursePredicate = (ref FileSystemEntry entry) => (entry.Attributes & FileAttributes.ReparsePoint) == 0,
    };

    private CatalogueSettings ReadSettings(List<FormatFault> faults)
    {
        var path = Path.Combine(folder, CatalogueSettings.FileName);
        var fallback = new CatalogueSettings(new DirectoryInfo(folder).Name);
        return File.Exists(path) ? CatalogueSettings.Read(
            ReadText(path, CatalogueSettings.FileName, faults), CatalogueSettings.FileName, faults) ?? fallback : fallback;
    }

    private static string ReadText(string path, string file, List<FormatFault> faults)
    {
        if (new FileInfo(path).Length <= MaxCardSize) return TextFile.Read(path, file, faults);
        faults.Add(new FormatFault(file, 1, "", $"expected at most {MaxCardSize >> 20} MiB"));
        return "";
    }

    private static Problem Faulty(List<FormatFault> faults)
    {
        var files = faults.Select(fault => fault.File).Distinct().Count();
        var count = FormatFault.Words(faults.Count);
        return new Problem(
            ProblemCode.NotVerified, files == 1 ? $"{faults[0].File} has {count}" : $"{files} files have {count}",
            remedy: "correct them; docs/formats/app-card.md describes every key")
        {
            Details = [.. faults.Select(fault => CardHints.With(fault).ToString())],
        };
    }
}
