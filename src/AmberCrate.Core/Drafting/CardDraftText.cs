using System.Globalization;
using System.Text;
using AmberCrate.Core.CardFiles;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Placements;
using AmberCrate.Core.Requirements;

namespace AmberCrate.Core.Drafting;

/// <summary>Writes drafts as people write cards: TOML, with a question as a comment where something is not known.</summary>
public static class CardDraftText
{
    /// <summary>Writes a card.</summary>
    public static string Write(CardDraft draft)
    {
        var text = new StringBuilder();
        foreach (var question in draft.Questions) text.Append("# ").Append(OneLine(question)).Append('\n');
        text.Append(CultureInfo.InvariantCulture, $"{AppCard.FormatKey} = {AppCard.FormatVersion}\n");
        Add(text, "id", draft.Id.Text);
        Add(text, "type", CardWords.Kinds.WordOf(draft.Kind));
        Add(text, "name", draft.Name);
        AddOrAsk(text, "summary", draft.Summary, "What is it, in one line? This key is required.");
        if (draft.Description is not null) Add(text, "description", draft.Description);
        if (draft.Developer is null) text.Append("# developer = { name = \"\" }  # Who makes it?\n");
        else text.Append(CultureInfo.InvariantCulture, $"developer = {{ name = {Quoted(draft.Developer)} }}\n");
        AddOrAsk(text, "homepage", draft.Homepage, "Where is its page?");
        AddOrAsk(text, "project_license", draft.Licence, "Under which licence is it, as an SPDX expression?");
        if (draft.Categories.Count == 0)
            text.Append("# categories = []  # Which categories of the Desktop Menu specification?\n");
        else AddList(text, "categories", draft.Categories);
        AddList(text, "keywords", draft.Keywords);
        AddList(text, "mimetypes", draft.MimeTypes);
        text.Append("# sign_in = \"none\"  # Must its user sign in: none, optional, required?\n");
        text.Append("# licence_key = \"none\"  # Must its user enter a licence key: none, optional, required?\n");
        AddList(text, "system_packages", draft.SystemPackages);
        AddList(text, "needs", [.. draft.Needs.Select(app => app.Text)]);
        text.Append(Requirements(draft.Release.Requirements));
        if (draft.Screenshots.Count > 0) AddTables(text, "screenshots", draft.Screenshots.Select(picture =>
            (IReadOnlyList<(string, string?)>)[("address", picture.Address), ("caption", picture.Caption)]));
        foreach (var said in draft.Translations) AddTranslation(text, said);
        AddPlacement(text, draft.Placement);
        foreach (var files in draft.Further.Prepend(draft.Release).GroupBy(release => release.Version))
        {
            text.Append('\n').Append(Write(files.First(), draft.Release.Requirements));
            foreach (var other in files.Skip(1)) text.Append('\n').Append(WriteArtifacts(other));
        }

        return text.ToString();
    }

    /// <summary>Writes a release with its artifacts.</summary>
    /// <param name="release">The release.</param>
    /// <param name="ofCard">What the card says of the system for all releases; a release that needs the same is silent.</param>
    public static string Write(ReleaseDraft release, IReadOnlyList<SystemRequirement>? ofCard)
    {
        var text = new StringBuilder("[[releases]]\n");
        AddOrAsk(text, "version", release.Version?.Text, "Which version is it? This key is required.");
        text.Append(CultureInfo.InvariantCulture, $"date = {release.Date:yyyy-MM-dd}\n");
        if (release.Line is { } line) Add(text, "line", line.Name);
        if (release.Notes is not null) Add(text, "description", release.Notes);
        if (release.Urgency is { } urgency) Add(text, "urgency", CardWords.Urgencies.WordOf(urgency));
        if (release.Requirements is { } required && ofCard?.SequenceEqual(required) != true) text.Append(Requirements(required));
        return text.Append('\n').Append(WriteArtifacts(release)).ToString();
    }

    /// <summary>Writes the artifacts of a release for one platform.</summary>
    public static string WriteArtifacts(ReleaseDraft release) =>
        string.Join('\n', release.Group.Files.Select(file => WriteArtifact(release, file)));

    private static string WriteArtifact(ReleaseDraft release, DraftedFile file)
    {
        var (text, contents) = (new StringBuilder("[[releases.artifacts]]\n"), file.Contents);
        Add(text, "platform", release.Platform.ToString());
        Add(text, "location", file.Location);
        Add(text, "format", CardWords.Formats.WordOf(contents.Format));
        Add(text, "sha256", contents.Sha256.Hex);
        text.Append(CultureInfo.InvariantCulture, $"download_size = {contents.Size}\n");
        if (contents.UnpackedSize is { } size) text.Append(CultureInfo.InvariantCulture, $"installed_size = {size}\n");
        if (contents.StripFolders > 0) text.Append(CultureInfo.InvariantCulture, $"strip = {contents.StripFolders}\n");
        if (contents.Format == ArtifactFormat.Installer)
            text.Append("installer = { arguments = [] }  # Which arguments make it ask nothing and fill {folder}?\n");
        return text.ToString();
    }

    /// <summary>What the system must have, a line each; nothing where that is not known.</summary>
    private static string Requirements(IReadOnlyList<SystemRequirement>? requirements)
    {
        if (requirements is null) return "";
        if (requirements.Count == 0) return $"{RequirementKeys.Name} = []\n";
        var text = new StringBuilder($"{RequirementKeys.Name} = [\n");
        foreach (var one in requirements)
        {
            List<string> parts = [$"kind = {Quoted(RequirementWords.Kinds.WordOf(one.Kind))}", $"name = {Quoted(one.Name)}"];
            if (one.Of is { } of) parts.Add($"of = {Quoted(of)}");
            if (one.Least is { } least) parts.Add($"least = {Quoted(least)}");
            AddPart(parts, "symbols", one.Symbols);
            foreach (var family in PackageFamilyRow.All)
                AddPart(parts, family.Word, one.PackagesFor(family.Family).Select(package => package.ToString()));
            text.Append(CultureInfo.InvariantCulture, $"  {{ {string.Join(", ", parts)} }},\n");
        }

        return text.Append("]\n").ToString();

        static void AddPart(List<string> parts, string key, IEnumerable<string> values)
        {
            var quoted = string.Join(", ", values.Select(Quoted));
            if (quoted.Length > 0) parts.Add($"{key} = [{quoted}]");
        }
    }

    private static void AddPlacement(StringBuilder text, Placement place)
    {
        AddTables(text, "place.commands", place.Commands.Select(command => Pairs(
            ("name", command.Name.Text), ("path", command.Path.Text))));
        AddTables(text, "place.desktop_entries", place.DesktopEntries.Select(entry => Pairs(
            ("name", entry.Name.Text), ("command", entry.Command.Text),
            ("arguments", string.IsNullOrEmpty(entry.Arguments) ? null : entry.Arguments), ("path", entry.Path?.Text),
            ("icon", entry.Icon?.Text))));
        AddTables(text, "place.icons", place.Icons.Select(icon => Pairs(
            ("name", icon.Name.Text), ("path", icon.Path.Text), ("size", icon.Size))));
        AddTables(text, "place.mime_types", place.MimeTypes.Select(OfFile));
        AddTables(text, "place.manual_pages", place.ManualPages.Select(OfFile));
        AddTables(text, "place.fonts", place.Fonts.Select(OfFile));
        if (place.Schemas.Count + place.Folders.Count + place.Mapped.Count + place.Borrows.Count == 0) return;
        text.Append("\n[place]\n");
        AddList(text, "schemas", [.. place.Schemas.Select(path => path.Text)]);
        AddList(text, "mapped", [.. place.Mapped.Select(path => path.Text)]);
        AddList(text, "borrows", [.. place.Borrows.Select(app => app.Text)]);
        foreach (var folders in place.Folders)
            AddList(text, $"folders.{OwnFolderRow.Find(folders.Kind).Word}", [.. folders.Paths.Select(path => path.Text)]);

        static IReadOnlyList<(string, string?)> OfFile(PlacedFile file) =>
            Pairs(("name", file.Name.Text), ("path", file.Path.Text));

        static IReadOnlyList<(string, string?)> Pairs(params (string, string?)[] pairs) => pairs;
    }

    private static void AddTranslation(StringBuilder text, Translation said)
    {
        text.Append(CultureInfo.InvariantCulture, $"\n[translations.{Quoted(said.Language)}]\n");
        if (said.Name is not null) Add(text, "name", said.Name);
        if (said.Summary is not null) Add(text, "summary", said.Summary);
        AddList(text, "keywords", said.Keywords);
        if (said.Description is not null) Add(text, "description", said.Description);
    }

    private static void AddTables(
        StringBuilder text, string name, IEnumerable<IReadOnlyList<(string Key, string? Value)>> tables)
    {
        foreach (var table in tables)
        {
            text.Append(CultureInfo.InvariantCulture, $"\n[[{name}]]\n");
            foreach (var (key, value) in table.Where(pair => pair.Value is not null)) Add(text, key, value!);
        }
    }

    private static void Add(StringBuilder text, string key, string value) =>
        text.Append(CultureInfo.InvariantCulture, $"{key} = {Quoted(value)}\n");

    private static void AddOrAsk(StringBuilder text, string key, string? value, string question)
    {
        if (value is not null) Add(text, key, value);
        else text.Append(CultureInfo.InvariantCulture, $"# {key} = \"\"  # {question}\n");
    }

    private static void AddList(StringBuilder text, string key, IReadOnlyList<string> values)
    {
        if (values.Count == 0) return;
        text.Append(CultureInfo.InvariantCulture, $"{key} = [{string.Join(", ", values.Select(Quoted))}]\n");
    }

    private static string OneLine(string text) =>
        string.Concat(text.Select(letter => char.IsControl(letter) ? ' ' : letter));

    /// <summary>A basic string of TOML 1.0; what it cannot hold is left out.</summary>
    private static string Quoted(string text)
    {
        var quoted = new StringBuilder("\"");
        foreach (var rune in text.EnumerateRunes().Where(rune => rune != Rune.ReplacementChar))
        {
            _ = rune.Value switch
            {
                '"' => quoted.Append("\\\""),
                '\\' => quoted.Append("\\\\"),
                '\n' => quoted.Append("\\n"),
                < 32 or 127 => quoted.Append(' '),
                _ => quoted.Append(rune),
            };
        }

        return quoted.Append('"').ToString();
    }
}
