using System.Security.Cryptography;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.SystemCalls;
using AmberCrate.Engine.Trust;

namespace AmberCrate.Engine.Publishing;

/// <summary>
/// The pages in a published folder. Files that others name carry a digest in their names and stay for one publication longer, so
/// that a reader who is in the middle finds them.
/// </summary>
/// <param name="folder">The published folder.</param>
internal sealed class PublishedPages(string folder)
{
    private const string First = PageFile.First;
    private const string List = "published-pages.txt";
    private const int DigestLetters = 16;
    private const UnixFileMode Mode =
        UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.GroupRead | UnixFileMode.OtherRead;

    private readonly PublishedFiles _files = new(folder, List);

    /// <summary>The published folder.</summary>
    public string Folder => folder;

    /// <summary>The digest of the root under which it is signed; null where it is not.</summary>
    public Sha256Digest? Root => SignedRepository.RootOf(folder);

    /// <summary>Whether there are pages that have been made here.</summary>
    public bool AreThere => File.Exists(Path.Combine(folder, First)) && _files.Has(First);

    /// <summary>Refuses to take the place of a page that someone else has put there.</summary>
    /// <exception cref="ProblemException">There is one.</exception>
    public void RefuseForeign()
    {
        if (AreThere || !Path.Exists(Path.Combine(folder, First))) return;
        throw new Problem(
            ProblemCode.Refused, $"{Path.Combine(folder, First)} was not made by acrate",
            "nothing has been published", "move it away, or publish to another folder").ToException();
    }

    /// <summary>Writes pages, and removes those that neither this publication nor the previous one names.</summary>
    /// <param name="maker">Makes them.</param>
    /// <param name="document">The entry document.</param>
    /// <param name="cards">The cards.</param>
    /// <param name="request">How it is published.</param>
    /// <param name="cancel">Stops; the first page is written last.</param>
    /// <returns>How many pages there are, one an app and those that lead to them.</returns>
    public int Write(
        IPageMaker maker, CatalogueDocument document, IReadOnlyList<AppCard> cards, BuildRequest request,
        CancellationToken cancel)
    {
        var (named, pages) = (new HashSet<string>(StringComparer.Ordinal), 0);
        var pictures = Pictures(cards, request.Cards, named);
        foreach (var page in maker.Make(new PageContent(document, cards, pictures) { Root = Root }))
        {
            cancel.ThrowIfCancellationRequested();
            named.Add(page.Path);
            if (page.Path.EndsWith(".html", StringComparison.Ordinal))
                request.Progress("writing pages", Math.Min(++pages, cards.Count), cards.Count);
            if (page.Path != First)
            {
                WriteChanged(page.Path, page.Content);
                continue;
            }

            // What the first page leads to is on the disk before it is, and so is the list that says which pages are ours.
            Posix.FlushFileSystem(folder);
            _files.Add(named);
            AtomicFile.Write(Path.Combine(folder, First), page.Content, Mode);
        }

        _files.Commit(named, isPruning: true);
        return pages;
    }

    /// <summary>Removes the pages that are left after their first one was removed.</summary>
    public void DropLeft() => _files.Commit(new HashSet<string>(), isPruning: true);

    private Dictionary<string, string> Pictures(IReadOnlyList<AppCard> cards, string cardsFolder, HashSet<string> named)
    {
        var pictures = new Dictionary<string, string>(StringComparer.Ordinal);
        foreach (var path in cards.SelectMany(card => card.Screenshots).Select(picture => picture.BesideCards).OfType<string>())
        {
            if (pictures.ContainsKey(path)) continue;
            var content = File.ReadAllBytes(Path.Combine(cardsFolder, path));
            var digest = Sha256Digest.FromBytes(SHA256.HashData(content)).Hex[..DigestLetters];
            pictures[path] = $"pages/pictures/{digest}{Path.GetExtension(path).ToLowerInvariant()}";
            named.Add(pictures[path]);
            WriteChanged(pictures[path], content);
        }

        return pictures;
    }

    private void WriteChanged(string path, byte[] content)
    {
        var target = Path.Combine(folder, path);
        if (File.Exists(target) && new FileInfo(target).Length == content.Length
            && File.ReadAllBytes(target).AsSpan().SequenceEqual(content)) return;
        AtomicFile.Write(target, content, Mode, isFlushed: false);
    }
}
