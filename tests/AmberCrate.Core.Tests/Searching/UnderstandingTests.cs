using System.Security.Cryptography;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Placements;
using AmberCrate.Core.Searching;
using AmberCrate.Core.Tests.Cards;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Tests.Searching;

/// <summary>How a query is understood: forms of words, fillers, purposes, types of file, languages.</summary>
public sealed class UnderstandingTests
{
    private static readonly IReadOnlyList<Purpose> Purposes = PurposeList.ReadOwn();

    /// <summary>Words of the published vocabulary of the Snowball project's English stemmer, with its stems.</summary>
    [Theory]
    [InlineData("editors editor editing edit edited", "editor editor edit edit edit")]
    [InlineData("lorries lorry diaries diary skies ties", "lorri lorri diari diari sky tie")]
    [InlineData("burning burner burned burns", "burn burner burn burn")]
    [InlineData("archives archiver archiving archive", "archiv archiv archiv archiv")]
    [InlineData("partitioning partitions hopping hoping agreed", "partit partit hop hope agre")]
    [InlineData("consignment relational conditional rationalization", "consign relat condit ration")]
    [InlineData("generously communism knightly possibly geology", "generous communism knight possibl geolog")]
    [InlineData("news skis proceed boy youth syzygy be a", "news ski proceed boy youth syzygi be a")]
    [InlineData("cplusplus 3d 7z жар dvds css", "cplusplus 3d 7z жар dvd css")]
    public void English_words_have_the_stems_of_the_published_algorithm(string words, string stems) =>
        string.Join(' ', words.Split(' ').Select(WordStem.English)).ShouldBe(stems);

    [Theory]
    [InlineData("de", "bilder bildes bild browsern passwoerter", "bild bild bild brows passwoert")]
    [InlineData("fr", "images image tableaux logiciels chevaux jouer", "imag imag tableau logiciel cheval jou")]
    [InlineData("es_MX", "imagenes archivos hoja luces visor", "imagen archiv hoja luz visor")]
    public void Words_of_some_languages_lose_their_endings(string language, string words, string stems)
    {
        var prefix = LocalTexts.PrefixOf(language.Split('_')[0]);
        string.Join(' ', words.Split(' ').Select(word => WordStem.Local(word, language)!.Replace(prefix, "")))
            .ShouldBe(stems);
        WordStem.Local("words", "nl").ShouldBeNull();
    }

    [Theory]
    [InlineData("C++", "cplusplus")]
    [InlineData("c#, F# and g++", "csharp fsharp and gplusplus")]
    [InlineData(".NET", "dotnet")]
    [InlineData("ASP.NET network .network", "asp net network network")]
    [InlineData("Scrim++ a+b 1# C+", "scrim a b 1 c")]
    [InlineData("3D 7z .odt", "3d 7z odt")]
    public void Names_of_languages_that_end_in_signs_are_words(string text, string folded) =>
        SearchText.Fold(text).ShouldBe(folded);

    [Theory]
    [InlineData("org.battenworks.ScrimPaint", "battenworks", "scrimpaint")]
    [InlineData("com.github.batten.scrim-paint", "batten", "scrim-paint")]
    [InlineData("io.github.scrim", "", "scrim")]
    [InlineData("org.battenworks.scrim.viewer", "battenworks", "scrim.viewer")]
    [InlineData("scrim.paint", "", "scrim.paint")]
    [InlineData("scrim-2.6.1", "", "scrim-2.6.1")]
    public void The_domain_of_an_id_is_no_part_of_the_name(string id, string domain, string name) =>
        AppNamespace.Split(AppId.Parse(id.ToLowerInvariant())).ShouldBe((domain, name));

    [Fact]
    public void The_texts_of_an_entry_are_words_and_nothing_else()
    {
        var card = CardSamples.With("org.batten-works.scrim-paint", "1.0 2026-01-01") with
        {
            MimeTypes = ["image/x-scrim.v2", "application/x-kicad-pcb", "text/x-c++src"],
            Categories = ["2DGraphics", "AudioVideo"],
            Developer = new Developer("Batten & Works, Ltd. (c++)", null),
        };
        SearchEntry.FromCard(card).Texts.SelectMany(text => text.Split(' ', StringSplitOptions.RemoveEmptyEntries))
            .Where(word => !word.All(char.IsLetterOrDigit)).ShouldBeEmpty();
        SearchEntry.FromCard(card).Developer.ShouldEndWith("batten works battenworks");
    }

    [Theory]
    [InlineData("de_AT.UTF-8", "de_AT de")]
    [InlineData("de", "de")]
    [InlineData("pt-BR", "pt_BR pt")]
    [InlineData("sr_RS.UTF-8@latin", "sr_RS@latin sr_RS sr@latin sr")]
    [InlineData("en_GB.UTF-8", "")]
    [InlineData("C.UTF-8", "")]
    [InlineData("POSIX", "")]
    [InlineData("../../etc", "")]
    [InlineData("", "")]
    [InlineData(null, "")]
    public void A_locale_asks_for_languages(string? locale, string expected) =>
        string.Join(' ', LanguageTag.ListFallbacks(locale)).ShouldBe(expected);

    [Theory]
    [InlineData("image/svg+xml", "svg")]
    [InlineData("application/vnd.oasis.opendocument.text", "odt")]
    [InlineData("text/x-c++src", "cpp cplusplus")]
    [InlineData("application/x-scrimshaw", "scrimshaw")]
    [InlineData("application/x-scrim-data+zip", "scrim")]
    [InlineData("application/zip", "zip")]
    [InlineData("application/x-keepass2", "kdbx")]
    [InlineData("application/octet-stream", "")]
    public void Types_of_file_are_known_by_their_endings(string type, string words) => FileTypes.Collect([type]).ShouldBe(words);

    [Theory]
    [InlineData("i need an app for reading ebooks", "reading ebooks")]
    [InlineData("the thing for tide", "tide")]
    [InlineData("the", "the")]
    [InlineData("scrim paint", "scrim paint")]
    public void Fillers_may_be_left_out(string typed, string telling)
    {
        var query = SearchQuery.Parse([typed]).WithoutFillers(null);
        string.Join(' ', query.Readings[0].Words).ShouldBe(typed);
        string.Join(' ', query.Readings[^1].Words).ShouldBe(telling);
    }

    [Theory]
    [InlineData("burn a cd", "discburning")]
    [InlineData("burning dvds", "discburning")]
    [InlineData("please write me a dvd", "discburning")]
    [InlineData("text editors", "texteditor")]
    public void Purposes_are_understood_in_any_form(string typed, string category)
    {
        var readings = SearchQuery.Parse([typed]).ForPurposes(Purposes, null).Readings.Where(reading =>
            reading.Purpose is not null);
        readings.ShouldContain(reading => reading.Words.Count == 0
            && reading.Purpose!.Categories.Contains(category));
    }

    [Fact]
    public void Our_own_purposes_name_registered_categories()
    {
        var registered = DesktopCategories.Names.Select(SearchText.Squash).ToHashSet();
        Purposes.Count.ShouldBeGreaterThan(60);
        Purposes.SelectMany(purpose => purpose.Categories).SelectMany(all => all.Split('+'))
            .Where(category => !registered.Contains(category)).ShouldBeEmpty();
    }

    [Fact]
    public void The_digest_of_our_own_purposes_is_that_of_their_file() =>
        PurposeList.OwnDigest.ShouldBe(
            Convert.ToHexStringLower(SHA256.HashData(PurposeList.OwnFile())),
            "docs/purposes.toml has changed: put its SHA-256 into OwnDigest");

    [Fact]
    public void An_app_for_a_purpose_is_found_by_its_category_and_better_by_its_words_too()
    {
        var burner = Entry("Ember", "Put files on discs") with { Categories = CategoryWords.FindWords("DiscBurning") };
        var named = burner with { Name = "ember burner" };
        var query = SearchQuery.Parse(["burn cd"]).ForPurposes(Purposes, null);
        SearchRanking.Judge(query, Entry("Ember", "Put files on discs")).ShouldBeNull();
        var match = SearchRanking.Judge(query, burner).ShouldNotBeNull();
        match.Field.ShouldBe(SearchField.Purpose);
        SearchRanking.Judge(query, named)!.Weight.ShouldBeGreaterThan(match.Weight);
    }

    [Fact]
    public void A_phrase_of_a_purpose_must_stand_together()
    {
        var query = SearchQuery.Parse(["time tracking"]).ForPurposes([Purpose.Create(["time tracking"], [],
            ["time tracker"])], null);
        SearchRanking.Judge(query, Entry("Stagehand hours", "A time tracker for crews")).ShouldNotBeNull()
            .Field.ShouldBe(SearchField.Purpose);
        SearchRanking.Judge(query, Entry("Ember", "A tracker of tunes, the first of its time")).ShouldBeNull();
    }

    [Fact]
    public void A_purpose_that_is_asked_for_in_two_ways_is_one()
    {
        string[] phrases = ["paint", "paint scenery", "paint walls"];
        var purposes = phrases.Select(said => Purpose.Create([said], ["Graphics"], ["brush"]));
        PurposeList.Asked(purposes, ["paint", "scenery", "walls"]).ShouldHaveSingleItem().Taken.Count.ShouldBe(2);
    }

    [Theory]
    [InlineData("edit spreadsheet", "edit spread sheet", 3)]
    [InlineData("comic viewer", "comic reader", 2)]
    [InlineData("watch movies", "watch films", 2)]
    [InlineData("edit images", "picture edit", 2)]
    [InlineData("edit spreadsheet", "spread edit sheet", 0)]
    [InlineData("comic viewer", "comic writer", 0)]
    public void A_purpose_is_asked_for_in_words_that_are_apart_or_mean_the_same(string phrase, string typed, int taken) =>
        PurposeList.Asked([Purpose.Create([phrase], ["Graphics"], [])], typed.Split(' ')).Sum(one => one.Taken.Count)
            .ShouldBe(taken);

    [Fact]
    public void Words_of_a_purpose_that_are_joined_must_all_be_there()
    {
        var query = SearchQuery.Parse(["edit scripts"]).ForPurposes([Purpose.Create(["edit scripts"], [], ["script+Merge"])],
            null);
        SearchRanking.Judge(query, Entry("Prompt Margin", "Merge two versions of a script")).ShouldNotBeNull();
        SearchRanking.Judge(query, Entry("Gantry Plot", "Merge rigging plans")).ShouldBeNull();
        Purpose.Create(["a"], [], ["script+", "+"]).Words.ShouldBeEmpty();
        Purpose.Create(["a"], [], ["C++", "c+++Editor"]).Words.ShouldBe(["cplusplus", "cplusplus+editor"]);
    }

    [Theory]
    [InlineData(".cue", "sheet lamp", "cue light")]
    [InlineData("*.cue", "sheet lamp", "cue light")]
    [InlineData("cue", "cue light", "sheet lamp", "cuelight")]
    public void What_is_typed_as_the_ending_of_a_file_asks_for_that_type(string typed, params string[] expected)
    {
        SearchEntry[] entries =
        [
            Entry("Cuelight", "Lamps that tell actors"), Entry("Cue Light", "Lamps that tell actors"),
            Entry("Sheet Lamp", "Reads lists") with { Types = "toc cue" },
        ];
        entries.Select(entry => (entry.Name, Match: SearchRanking.Judge(SearchQuery.Parse([typed]), entry)))
            .Where(hit => hit.Match is not null).OrderByDescending(hit => hit.Match!.Weight).Select(hit => hit.Name)
            .ShouldBe(expected);
    }

    [Fact]
    public void A_purpose_that_takes_every_word_counts_for_more_and_words_beside_it_may_be_missing()
    {
        var purposes = new[] { Purpose.Create(["see stars"], [], ["planetarium"]) };
        var sky = Entry("Fly Loft", "A planetarium");
        var whole = SearchQuery.Parse(["see stars"]).ForPurposes(purposes, null);
        SearchRanking.Judge(whole, sky)!.Weight
            .ShouldBeGreaterThan(SearchRanking.Judge(whole, Entry("Lamp", "Lights that see stars fall"))!.Weight);
        var more = SearchQuery.Parse(["see stars tonight"]).ForPurposes(purposes, null);
        SearchRanking.Judge(more, sky).ShouldBeNull();
        var lacking = SearchRanking.Judge(more.Lacking(1), sky).ShouldNotBeNull();
        (lacking.Missing, lacking.IsVague, SearchRanking.IsWeak(lacking)).ShouldBe((1, false, false));
    }

    [Fact]
    public void The_beginning_of_a_word_of_the_name_counts_by_how_much_of_the_word_it_is()
    {
        var (near, far) = (Entry("Telegraph Desk Of The House", ""), Entry("Telephonists", ""));
        SearchRanking.Judge(SearchQuery.Parse(["telegra"]), near)!.Weight
            .ShouldBeGreaterThan(SearchRanking.Judge(SearchQuery.Parse(["tele"]), far)!.Weight);
    }

    [Fact]
    public void What_fits_best_comes_first_within_one_kind_of_match()
    {
        var query = SearchQuery.Parse(["cue sheet"]).Knowing(word => new WordFacts(word == "sheet" ? ["sheets"] : [], 1));
        SearchEntry[] expected =
        [
            Entry("Cue Sheet", ""), Entry("Cue Sheet Desk", ""), Entry("Zebra", "Cue sheet"),
            Entry("Cue Ledger", "Write cue sheets"),
            Entry("Zebra", "Prints a cue sheet on a label"),
            Entry("Abacus", "Counts things") with { Description = "Made for a cue sheet." },
        ];
        expected.Reverse().OrderByDescending(entry => SearchRanking.Judge(query, entry)!.Weight).ShouldBe(expected);
    }

    [Fact]
    public void The_word_itself_counts_more_than_its_forms_and_a_main_category_least()
    {
        var query = SearchQuery.Parse(["paint"]).Knowing(_ => new WordFacts(["painting"], 1));
        var (exact, form) = (Entry("Scrim", "Paint walls"), Entry("Scrim", "Painting walls"));
        Weight(exact).ShouldBeGreaterThan(Weight(form));
        Weight(form).ShouldBeGreaterThan(Weight(Entry("Scrim", "") with { Areas = "paint" }));

        int Weight(SearchEntry entry) => SearchRanking.Judge(query, entry)!.Weight;
    }

    [Fact]
    public void Words_may_be_missing_only_where_that_is_allowed()
    {
        var query = SearchQuery.Parse(["scrim wardrobe"]);
        var entry = Entry("Scrim", "");
        SearchRanking.Judge(query, entry).ShouldBeNull();
        SearchRanking.Judge(query.Lacking(1), entry).ShouldNotBeNull().Missing.ShouldBe(1);
        SearchRanking.Judge(query.Lacking(1), Entry("Batten", "")).ShouldBeNull();
    }

    [Fact]
    public void A_translation_is_matched_like_the_English_texts()
    {
        var entry = Entry("Scrim Paint", "Paint walls") with
        {
            Local = [LocalTexts.FromTranslation(new Translation("de", "Gazemaler", "Malt Prospekte", ["Schleier"], null))],
        };
        SearchRanking.Judge(SearchQuery.Parse(["gazemaler"]), entry)!.Field.ShouldBe(SearchField.WholeName);
        SearchRanking.Judge(SearchQuery.Parse(["schleier"]), entry)!.Field.ShouldBe(SearchField.Keyword);
        SearchRanking.Judge(SearchQuery.Parse(["prospekte"]), entry)!.Field.ShouldBe(SearchField.Summary);
    }

    [Theory]
    [InlineData("remina", "remmina", true)]
    [InlineData("cahs", "cash", true)]
    [InlineData("remina", "regina", false)]
    public void Slips_of_the_fingers_are_likelier_than_other_mistakes(string typed, string meant, bool isSlip) =>
        SpellingGuess.IsSlip(typed, meant).ShouldBe(isSlip);

    private static SearchEntry Entry(string name, string summary) => new()
    {
        Kind = AppKind.DesktopApp, Reviewed = true, Id = SearchText.Fold(name), Name = SearchText.Fold(name),
        Summary = SearchText.FoldCompounds(summary),
    };
}
