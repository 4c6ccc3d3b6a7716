namespace AmberCrate.SampleCatalogue;

/// <summary>The words of which the made-up world's names and sentences are put together.</summary>
internal static class Vocabulary
{
    /// <summary>What the things are like with which people work there.</summary>
    public static readonly string[] Kinds =
    [
        "velvet", "folding", "touring", "painted", "borrowed", "gilded", "wooden", "printed", "silent", "winter", "matinee",
        "antique", "hanging",
        "numbered", "portable", "fragile", "striped", "revolving", "mended", "spare", "rented", "handmade", "oversized",
        "weathered", "inflatable",
    ];

    /// <summary>The things.</summary>
    public static readonly string[] Things =
    [
        "curtains", "chairs", "wigs", "swords", "masks", "lanterns", "ladders", "costumes", "footlights", "staircases",
        "banners", "drums", "tickets",
        "programmes", "ropes", "pulleys", "hats", "gloves", "mirrors", "trunks", "balconies", "thrones", "puppets", "bells",
        "boots", "crowns",
        "tables", "flats", "platforms", "doors", "barrels", "parasols", "telescopes", "carpets", "chandeliers", "wagons", "fans",
        "gauzes", "statues", "clocks",
    ];

    /// <summary>For whom.</summary>
    public static readonly string[] Houses =
    [
        "small playhouses", "touring companies", "school stages", "opera workshops", "festival crews", "village halls",
        "dance schools", "puppet theatres",
        "rehearsal rooms", "costume stores", "scene docks", "ticket offices",
    ];

    /// <summary>How a summary begins; {0} is the verb, {1} what it is done to.</summary>
    public static readonly string[] Openings =
    [
        "{0} {1}", "{0} {1} without fuss", "{0} {1} for {2}", "{0} and share {1}", "a quick way to {0} {1}",
        "{0} {1} together with {2}",
    ];

    /// <summary>
    /// Sentences of a description; {0} is the verb, {1} the craft's word, {2} what it is done to, {3} for whom.
    /// </summary>
    public static readonly string[] Sentences =
    [
        "It was begun by a stage manager who had to {0} {2} every evening and wanted to be home before midnight.",
        "Everything is kept in one file that can be copied to another machine.",
        "Works without a connection, and catches up when there is one again.",
        "A {1} can be shared with {3}, who need nothing but a printer.",
        "Changes can be taken back one by one, even days later.",
        "The window stays readable in a dark wing, and the keys can be found by touch.",
        "Lists may be sorted, filtered and printed on one sheet.",
        "Import from older programs is part of it, and so is a plain text form for everything.",
        "Made for {3} that {0} {2} all season.",
        "Two people may work on the same {1} at once.",
    ];

    /// <summary>What a release may have brought; {0} is the craft's word.</summary>
    public static readonly string[] Notes =
    [
        "Mends a crash when the {0} was empty.", "Opens large files in half the time.", "The {0} can be sorted by date.",
        "New: a darker window for the wings.",
        "Translations were brought up to date.", "Mends printing on narrow paper.", "The {0} is saved every minute.",
        "Fewer questions at the first start.",
    ];

    /// <summary>Licences, proprietary ones included.</summary>
    public static readonly string[] Licences =
        [
            "GPL-3.0-or-later", "GPL-2.0-only", "MIT", "Apache-2.0", "BSD-3-Clause", "MPL-2.0", "LGPL-2.1-or-later",
            "LicenseRef-proprietary", "MIT OR Apache-2.0",
        ];

    private static readonly string[] Starts =
    [
        "Bra", "Cor", "Del", "Fen", "Gri", "Hal", "Jor", "Kes", "Lum", "Mar", "Nor", "Ost", "Pel", "Quil", "Ros", "Sel", "Tor",
        "Ulm", "Var", "Wen", "Yar", "Zel",
    ];
    private static readonly string[] Middles =
        ["da", "be", "ci", "fo", "gu", "la", "me", "ni", "po", "ru", "sa", "te", "vi", "wo", "xa", "ly"];
    private static readonly string[] Ends =
    [
        "borne", "crest", "dale", "field", "gate", "holm", "kirk", "lock", "mere", "nock", "pike", "rick", "stead", "thorp",
        "wick", "yard",
    ];

    /// <summary>How many houses make apps.</summary>
    public static int Brands => Starts.Length * Middles.Length * Ends.Length;

    /// <summary>The made-up name of a house that makes apps; some are written with an accent.</summary>
    public static string Brand(int number)
    {
        var name = Starts[number % Starts.Length] + Middles[number / Starts.Length % Middles.Length]
            + Ends[number / Starts.Length / Middles.Length % Ends.Length];
        return number % 11 == 0 ? name.Replace('e', 'é').Replace('u', 'ü') : name;
    }
}
