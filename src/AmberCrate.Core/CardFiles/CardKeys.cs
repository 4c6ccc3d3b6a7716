using AmberCrate.Core.Cards;
using AmberCrate.Core.Formats;
using AmberCrate.Core.Placements;
using AmberCrate.Core.Requirements;
using AmberCrate.Core.Values;
using static AmberCrate.Core.CardFiles.CardFormats;

namespace AmberCrate.Core.CardFiles;

/// <summary>
/// The keys of a card. A new key is a line here, its property in <see cref="AppCard"/> and its test; it is read, written and
/// documented by it.
/// </summary>
internal static class CardKeys
{
    /// <summary>The keys.</summary>
    public static readonly KeyTable<AppCard> Table = new(values => new AppCard
    {
        Id = Id!.In(values), Kind = Kind!.In(values), Name = Name!.In(values), Summary = Summary!.In(values),
        Description = Description!.In(values), Developer = Developer!.In(values), Homepage = Homepage!.In(values),
        Licence = Licence!.In(values), Categories = Categories!.In(values), Keywords = Keywords!.In(values),
        SignIn = SignIn!.In(values), LicenceKey = LicenceKey!.In(values), Attention = Attention!.In(values),
        Needs = Needs!.In(values), Conflicts = Conflicts!.In(values), Requirements = System!.In(values),
        Review = Review!.In(values),
        Releases = Releases!.In(values), Placement = Place!.In(values),
        LaterPlacement = Place.LaterIn<Placement>(values), IsProtected = IsProtected!.In(values),
        UpdatesItself = UpdatesItself!.In(values), Settings = Settings!.In(values),
        SystemPackages = SystemPackages!.In(values), VersionSource = Source!.In(values),
        MimeTypes = MimeTypes!.In(values), Screenshots = Screenshots!.In(values), Translations = Translations!.In(values),
    }, new Dictionary<string, string> { ["license"] = LicenceName, ["licence"] = LicenceName });

    /// <summary>AppStream's name, which other tools read and write too; that explains the spelling.</summary>
    private const string LicenceName = "project_license";

    private static readonly Key<AppCard, AppId> Id = Table.Required(
        "id", new ParsedFormat<AppId>(AppId.TryParse, AppId.Expected, id => id.Text), card => card.Id,
        "lower-case letters and digits, joined by single hyphens or dots, at most 80. The file is named after it");

    private static readonly Key<AppCard, AppKind> Kind = Table.Required(
        "type", new ChoiceFormat<AppKind>(CardWords.Kinds), card => card.Kind, "AppStream's component type");

    private static readonly Key<AppCard, string> Name = Table.Required(
        "name", Names, card => card.Name, "the name for people, at most 100 characters");

    private static readonly Key<AppCard, string> Summary = Table.Required(
        "summary", Summaries, card => card.Summary, "one line about it, at most 200");

    private static readonly Key<AppCard, string?> Description = Table.Optional(
        "description", Paragraphs, card => card.Description, "paragraphs about it, plain text, at most 20,000");

    private static readonly Key<AppCard, Developer?> Developer = Table.Optional(
        "developer", One(DeveloperKeys.Table), card => card.Developer, "who makes it");

    private static readonly Key<AppCard, string?> Homepage = Table.Optional(
        "homepage", new TextFormat(Text, IsPage, "an http: or https: address"), card => card.Homepage,
        "an http: or https: address");

    private static readonly Key<AppCard, string?> Licence = Table.Optional(
        LicenceName, new TextFormat(Text, SpdxExpression.IsValid, SpdxExpression.Expected), card => card.Licence,
        "an SPDX 2.3 licence expression; `LicenseRef-proprietary` for what is not free. The grammar is checked, not the list of "
            + "licences");

    private static readonly Key<AppCard, IReadOnlyList<string>> Categories = Table.Optional(
        "categories", StringsThat(DesktopCategories.IsValid, DesktopCategories.Expected, Word), [], card => card.Categories,
        "registered categories of the Desktop Menu specification, or own ones that begin with `X-`");

    private static readonly Key<AppCard, IReadOnlyList<string>> Keywords = Table.Optional(
        "keywords", Words, [], card => card.Keywords, "further words that people search for it with, each at most 100 "
            + "characters");

    private static readonly Key<AppCard, IReadOnlyList<string>> MimeTypes = Table.Optional(
        "mimetypes", new ParsedListFormat<string>(MimeType.TryParse, MimeType.Expected, type => type, Word, most: 1000), [],
        card => card.MimeTypes, "the types of file that it opens, such as `image/svg+xml`; people find it by them, and by the "
            + "usual endings of such files");

    private static readonly Key<AppCard, IReadOnlyList<Screenshot>> Screenshots = Table.Optional(
        "screenshots", Many(ScreenshotKeys.Table, isReadLater: true), [], card => card.Screenshots,
        "pictures of it at work, the telling one first");

    private static readonly Key<AppCard, IReadOnlyList<Translation>> Translations = Table.Optional(
        "translations", new NamedTablesFormat<Translation>(TranslationKeys.Table, TranslationKeys.Language, most: 300), [],
        card => card.Translations, "what it is called and what it is for in other languages than English, each in a table of its "
            + "own, such as `[translations.de]`");

    private static readonly Key<AppCard, SignIn?> SignIn = Table.Optional(
        "sign_in", new ChoiceFormat<SignIn>(CardWords.SignIns), card => card.SignIn, "whether it asks its user to sign in");

    private static readonly Key<AppCard, SignIn?> LicenceKey = Table.Optional(
        "licence_key", new ChoiceFormat<SignIn>(CardWords.SignIns), card => card.LicenceKey,
        "whether it asks for a licence key");

    private static readonly Key<AppCard, IReadOnlyList<Attention>?> Attention = Table.Optional(
        "attention", new ChoiceListFormat<Attention>(CardWords.Attentions), card => card.Attention,
        "what a user has to do: restart the machine, answer a dialog at the first start, accept the terms of a licence; "
            + "empty for nothing. The words");

    private static readonly Key<AppCard, IReadOnlyList<RelatedApp>> Needs = Table.Optional(
        "needs", Related, [], card => card.Needs,
        "what it does not work without: ids, if wished with a [selector](../versions.md), such as `batten-runtime@1.2..2`");

    private static readonly Key<AppCard, IReadOnlyList<RelatedApp>> Conflicts = Table.Optional(
        "conflicts", Related, [], card => card.Conflicts, "what cannot be there beside it, written like `needs`");

    private static readonly Key<AppCard, IReadOnlyList<SystemRequirement>?> System = Table.Optional(
        RequirementKeys.Name, Many(RequirementKeys.Table, isReadLater: true), card => card.Requirements,
        "what it expects the system to have, unless a release has a `system` of its own; empty where it needs nothing. Where the "
            + "key is missing, nothing is known");

    private static readonly Key<AppCard, Review> Review = Table.Optional(
        "review", One(ReviewKeys.Table), new Review(ReviewState.Unreviewed), card => card.Review,
        "what the catalogue's maintainers say about it");

    private static readonly Key<AppCard, bool> IsProtected = Table.Optional(
        "protected", new TruthFormat(), otherwise: false, card => card.IsProtected,
        "whether `uninstall` refuses to remove it");

    private static readonly Key<AppCard, bool> UpdatesItself = Table.Optional(
        "self_updating", new TruthFormat(), otherwise: false, card => card.UpdatesItself,
        "whether it brings itself up to date; it is then upgraded only if a user names it");

    private static readonly Key<AppCard, IReadOnlyList<string>> Settings = Table.Optional(
        "settings", new ParsedListFormat<string>(SettingsPath.TryParse, SettingsPath.Expected, path => path, Text, most: 20), [],
        card => card.Settings,
        "where it keeps settings and data in a user's home, at most 20: " + SettingsPath.Expected
            + ". They stay when it is uninstalled, unless `--with-settings` is given");

    private static readonly Key<AppCard, IReadOnlyList<string>> SystemPackages = Table.Optional(
        "system_packages", StringsThat(IsPackage, "lower-case letters, digits and + - . _, such as scrim-paint", Word), [],
        card => card.SystemPackages, "the names under which systems have it as a package of their own");

    private static readonly Key<AppCard, VersionSource?> Source = Table.Optional(
        "version_source", One(VersionSourceKeys.Table), card => card.VersionSource,
        "where an installed one says which version it is, for apps that change by themselves");

    private static readonly Key<AppCard, IReadOnlyList<Release>> Releases = Table.Required(
        "releases", Many(ReleaseKeys.Table, isReadLater: true), card => card.Releases, "at least one, in any order");

    private static readonly Key<AppCard, Placement> Place = Table.Optional(
        PlacementKeys.Name, One(PlacementKeys.Table, isReadLater: true), Placement.Nothing, card => card.Placement,
        "what every release places, unless it has a `place` of its own");

    private static bool IsPackage(string text) =>
        text.Length > 0 && text.All(c => char.IsAsciiLetterLower(c) || char.IsAsciiDigit(c) || c is '+' or '-' or '.' or '_');

    private static class VersionSourceKeys
    {
        public static readonly KeyTable<VersionSource> Table = new(values => new VersionSource
        {
            File = File!.In(values), Command = Command!.In(values), Arguments = Arguments!.In(values),
            DesktopEntry = DesktopEntry!.In(values), Behind = Behind!.In(values),
        });

        private static readonly Key<VersionSource, InsidePath?> File = Table.Optional(
            "file", InsidePaths, source =>
                source.File, "a text file in the shelf entry; of the three the first that is given counts");

        private static readonly Key<VersionSource, FileName?> Command = Table.Optional(
            "command", FileNames, source => source.Command,
            "one of the app's commands, started confined as `place.check` is");

        private static readonly Key<VersionSource, IReadOnlyList<string>> Arguments = Table.Optional(
            "arguments", StringsThat(text => !text.Any(char.IsControl), "strings without control characters", Text), [],
            source => source.Arguments, "what the command is started with");

        private static readonly Key<VersionSource, FileName?> DesktopEntry = Table.Optional(
            "desktop_entry", FileNames, source => source.DesktopEntry,
            "one of the app's menu entries; its key `X-AppVersion` has the version");

        private static readonly Key<VersionSource, string> Behind = Table.Optional(
            "behind", Texts, "", source => source.Behind,
            "what comes before the version; otherwise the first word that is a version counts");
    }

    private static class ScreenshotKeys
    {
        public static readonly KeyTable<Screenshot> Table =
            new(values => new Screenshot(Address!.In(values), Caption!.In(values)));

        private static readonly Key<Screenshot, string> Address = Table.Required(
            "address", new TextFormat(Text, address => IsPage(address) || Screenshot.IsPath(address), Screenshot.Expected),
            picture => picture.Address, Screenshot.Expected);

        private static readonly Key<Screenshot, string?> Caption =
            Table.Optional("caption", Summaries, picture => picture.Caption, "what it shows");
    }

    private static class TranslationKeys
    {
        public const string Language = "language";

        public static readonly KeyTable<Translation> Table = new(values => new Translation(
            Tag!.In(values), Name!.In(values), Summary!.In(values), Keywords!.In(values), Description!.In(values)));

        private static readonly Key<Translation, string> Tag = Table.Required(
            Language, new ParsedFormat<string>(LanguageTag.TryParse, LanguageTag.Expected, tag => tag), text => text.Language,
            "the language, as `de`, `pt_BR` or `sr@latin`. In a card's file it is the table's name and not a key");

        private static readonly Key<Translation, string?> Name =
            Table.Optional("name", Names, text => text.Name, "the name for people");

        private static readonly Key<Translation, string?> Summary =
            Table.Optional("summary", Summaries, text => text.Summary, "one line about it");

        private static readonly Key<Translation, IReadOnlyList<string>> Keywords = Table.Optional(
            "keywords", Words, [], text => text.Keywords,
            "further words that people search for it with, in addition to the English ones");

        private static readonly Key<Translation, string?> Description =
            Table.Optional("description", Paragraphs, text => text.Description, "paragraphs about it");
    }

    private static class DeveloperKeys
    {
        public static readonly KeyTable<Developer> Table =
            new(values => new Developer(Name!.In(values), Id!.In(values), IsConfirmed!.In(values)));

        private static readonly Key<Developer, string> Name =
            Table.Required("name", Names, developer => developer.Name, "the name for people");

        private static readonly Key<Developer, string?> Id =
            Table.Optional("id", Names, developer => developer.Id, "AppStream's developer id");

        private static readonly Key<Developer, bool?> IsConfirmed = Table.Optional(
            "confirmed", new TruthFormat(), developer => developer.IsConfirmed,
            "whether the catalogue's maintainers have made sure that the app comes from this developer");
    }

    private static class ReviewKeys
    {
        public static readonly KeyTable<Review> Table =
            new(values => new Review(State!.In(values), Date!.In(values), By!.In(values)));

        private static readonly Key<Review, ReviewState> State = Table.Required(
            "state", new ChoiceFormat<ReviewState>(CardWords.ReviewStates), review => review.State, "how far they are");

        private static readonly Key<Review, DateOnly?> Date =
            Table.Optional("date", Dates, review => review.Date, "when that was");

        private static readonly Key<Review, string?> By =
            Table.Optional("by", Names, review => review.By, "who looked at it");
    }
}
