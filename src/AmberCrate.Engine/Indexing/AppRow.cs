using AmberCrate.Core.CardFiles;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Searching;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Storage;

namespace AmberCrate.Engine.Indexing;

/// <summary>One line of a part, read, checked, and brought into its stored form.</summary>
/// <param name="Id">The app.</param>
/// <param name="Line">The line, compressed; null where the app is gone.</param>
/// <param name="Entry">The folded texts; null where the app is gone.</param>
/// <param name="Name">The name for people.</param>
/// <param name="Summary">One line about it.</param>
/// <param name="Releases">Its newest releases, as <see cref="NewestReleases"/> keeps them.</param>
/// <param name="Newest">The date of its newest release.</param>
/// <param name="Marks">Words for what a search may be narrowed by.</param>
internal sealed record AppRow(
    AppId Id,
    byte[]? Line,
    SearchEntry? Entry,
    string Name = "",
    string Summary = "",
    string Releases = "",
    string Newest = "",
    string Marks = "")
{
    /// <summary>By what its software is recognised where others have put it.</summary>
    public IReadOnlyList<string> Signs { get; private init; } = [];

    /// <summary>What it says in other languages.</summary>
    public IReadOnlyList<Translation> Translations { get; private init; } = [];

    private const int PlaceLetters = 8, BitsPerLetter = 6, CounterBits = 12;

    /// <summary>How many apps may share the part of a place that is computed.</summary>
    public const long PerPlace = 1L << CounterBits;

    /// <summary>
    /// Where the places of apps like this begin: the order of <see cref="SearchRanking"/> among equal matches (reviewed
    /// first, apps before runtimes and fonts), then the first letters of the name.
    /// </summary>
    public long FirstPlace
    {
        get
        {
            var place = (Entry!.Reviewed ? 0L : 2L) + (Entry.IsApp ? 0L : 1L);
            for (var at = 0; at < PlaceLetters; at++)
                place = (place << BitsPerLetter) | Letter(at < Entry.Name.Length ? Entry.Name[at] : ' ');
            return place << CounterBits;
        }
    }

    /// <summary>Reads a line.</summary>
    /// <param name="bytes">The line.</param>
    /// <param name="mayNameFiles">Whether its catalogue is a folder of this machine. A server must not have this machine's files
    /// read, whose digests the messages would tell.</param>
    /// <exception cref="MalformedException">It is not one.</exception>
    public static AppRow Read(ReadOnlySpan<byte> bytes, bool mayNameFiles = true)
    {
        var (id, card, canOpen) = CatalogueLine.Read(bytes);
        if (!mayNameFiles && card is not null && NamesFile(card))
            throw new MalformedException("releases: a file: address is for catalogues in a folder of this machine only");
        return card is null
            ? new AppRow(id, null, null)
            : new AppRow(
                id, CardCompression.Pack(canOpen ? bytes : CardJson.Write(card)), SearchEntry.FromCard(card), card.Name,
                    card.Summary,
                NewestReleases.Format(card), card.Releases.Max(release => release.Date).ToString("yyyy-MM-dd"),
                FilterTokens.FromCard(card))
            { Signs = SoftwareFingerprints.FromCard(card), Translations = card.Translations };
    }

    private static bool NamesFile(AppCard card) => card.Releases
        .SelectMany(release => release.Artifacts)
        .SelectMany(artifact => artifact.Mirrors.Prepend(artifact.Location))
        .Any(location => location.Absolute?.IsFile == true);

    /// <summary>Reads the texts of an app from the columns of <see cref="CatalogueTables.Entry"/>.</summary>
    /// <param name="row">A row of a query.</param>
    /// <param name="at">The first of the columns.</param>
    public static SearchEntry EntryOf(Row row, int at) => new()
    {
        Kind = (AppKind)row.Small(at), Reviewed = row.Small(at + 1) != 0, Id = row.Text(at + 2), Name = row.Text(at + 3),
        Keywords = row.Text(at + 4), Types = row.Text(at + 5), Summary = row.Text(at + 6), Categories = row.Text(at + 7),
        Developer = row.Text(at + 8), Areas = row.Text(at + 9), Description = row.Text(at + 10),
    };

    private static long Letter(char letter) => letter switch
    {
        ' ' => 0,
        >= '0' and <= '9' => letter - '0' + 1,
        >= 'a' and <= 'z' => letter - 'a' + 11,
        _ => 37,
    };
}
