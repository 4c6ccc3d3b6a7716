using AmberCrate.Core.Searching;
using AmberCrate.Engine.Storage;

namespace AmberCrate.Engine.Indexing;

/// <summary>
/// The purposes in the catalogue cache, our own and those of catalogues, by the first stem of each phrase: a search looks up the
/// few that it may need, instead of reading them all.
/// </summary>
/// <param name="database">The catalogue cache.</param>
internal sealed class KnownPurposes(Database database)
{
    private const long Own = 0;
    private const char Between = '\n';

    /// <summary>Makes the purposes of a catalogue these, and our own those of this program.</summary>
    public void ReplacePurposes(long catalogue, IReadOnlyList<Purpose> purposes)
    {
        Replace(catalogue, purposes);
        TakeOwn();
    }

    /// <summary>Makes our own purposes those of this program, where they are of another version of it.</summary>
    public void TakeOwn()
    {
        if (IsOurOwn()) return;
        Replace(Own, PurposeList.ReadOwn());
        database.Run("INSERT INTO purposes(stem, catalogue, asked, categories, words) VALUES('', $1, $2, '', '')", Own,
            PurposeList.OwnDigest);
    }

    /// <summary>Forgets those of a catalogue.</summary>
    public void Drop(long catalogue) => database.Run("DELETE FROM purposes WHERE catalogue = $1", catalogue);

    /// <summary>Purposes that the words may ask for: each has a phrase that begins with the stem of one.</summary>
    public IReadOnlyList<Purpose> For(IReadOnlyList<string> words)
    {
        var stems = PurposeList.StemsIn(words).Keys.ToList();
        var isOurs = IsOurOwn();
        var found = database.Query(
            "SELECT asked, categories, words FROM purposes WHERE stem IN (SELECT value FROM json_each($1)) "
                + "AND (catalogue <> $2 OR $3)",
            row => new Purpose(Parts(row.Text(0)), Parts(row.Text(1)), Parts(row.Text(2))), SearchStatement.List(stems), Own,
            isOurs ? 1L : 0L);

        // The cache is of another version of the program: until the next refresh, our own are read from the program.
        return isOurs ? found : [.. found, .. PurposeList.ReadOwn()];
    }

    /// <summary>Whether our own are those of this program, and not of another version of it.</summary>
    public bool IsOurOwn() =>
        database.Query("SELECT asked FROM purposes WHERE stem = '' AND catalogue = $1", row => row.Text(0), Own) is [var mark]
            && mark == PurposeList.OwnDigest;

    private void Replace(long catalogue, IReadOnlyList<Purpose> purposes)
    {
        Drop(catalogue);
        using var insert = database.Prepare(
            "INSERT INTO purposes(stem, catalogue, asked, categories, words) VALUES($1, $2, $3, $4, $5)");
        foreach (var purpose in purposes)
        {
            foreach (var phrase in purpose.Asked)
                insert.Run(
                    Purpose.StemsOf(phrase)[0], catalogue, phrase, string.Join(Between, purpose.Categories),
                    string.Join(Between, purpose.Words));
        }
    }

    private static string[] Parts(string text) => text.Length == 0 ? [] : text.Split(Between);
}
