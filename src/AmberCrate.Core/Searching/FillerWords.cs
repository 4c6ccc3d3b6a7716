namespace AmberCrate.Core.Searching;

/// <summary>Words that say nothing of an app, as they stand in "i need an app for reading ebooks".</summary>
internal static class FillerWords
{
    private static readonly HashSet<string> English = Split(
        "a an and any app application applications apps are as at be by can could d do does find for from get give good have "
            + "help how i if im in is it its l like looking m make me my need of on one or please program programs s see show so "
            + "some something software someone such t than that the them then there these thing things this those to tool tools "
            + "use used uses using want we what when where which who will with would you your happens more most free best linux");

    private static readonly HashSet<string> None = [];
    private static readonly Dictionary<string, HashSet<string>> Others = new(StringComparer.Ordinal)
    {
        ["de"] = Split(
            "der die das den dem des ein eine einen einer fuer fur und oder mit zum zur im in am auf von zu ich brauche "
            + "programm anwendung app software etwas"),
        ["fr"] = Split("le la les l un une des du de d pour et ou avec dans sur je veux logiciel application programme"),
        ["es"] = Split("el la los las un una unos unas de del para y o con en por quiero programa aplicacion"),
    };

    /// <summary>Those in English.</summary>
    public static IReadOnlySet<string> InEnglish => English;

    /// <summary>Those in another language.</summary>
    /// <param name="language">The language's code, such as <c>de</c>.</param>
    public static IReadOnlySet<string> In(string language) => Others.GetValueOrDefault(language, None);

    /// <summary>Whether a folded word is one.</summary>
    /// <param name="word">The word.</param>
    /// <param name="language">The code of the user's language; null for English.</param>
    public static bool Contains(string word, string? language) =>
        English.Contains(word) || (language is not null && Others.GetValueOrDefault(language)?.Contains(word) == true);

    private static HashSet<string> Split(string words) => new(words.Split(' '), StringComparer.Ordinal);
}
