using AmberCrate.Core.Formats;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Cards;

/// <summary>Reads an app card. All faults of a file are found in one pass, each with line, key and what was expected.</summary>
public static class CardReader
{
    /// <summary>Reads a card from its text; null when faults were added.</summary>
    /// <param name="text">The file's text.</param>
    /// <param name="file">The file's name for messages.</param>
    /// <param name="faults">Takes the faults.</param>
    public static AppCard? Read(string text, string file, ICollection<FormatFault> faults)
    {
        var found = new List<FormatFault>();
        var card = TomlText.Read(text, file, found) is { } root ? Read(root, file, found) : null;
        foreach (var fault in found.OrderBy(fault => fault.Line)) faults.Add(fault);
        return found.Count == 0 ? card : null;
    }

    private static AppCard? Read(TomlTable root, string file, List<FormatFault> faults)
    {
        var table = new TableReader(root, file, "", faults);
        table.Number("appcard", AppCard.FormatVersion, AppCard.FormatVersion, required: true);
        var id = table.Parsed<AppId>("id", AppId.TryParse, AppId.Expected, required: true);
        if (id is not null && file.EndsWith(AppCard.FileEnding, StringComparison.Ordinal) && FileStem(file) != id.Text)
            table.AddFault("id", $"expected the id that the file is named after, \"{FileStem(file)}\", found \"{id}\"");
        var kind = table.Choice("type", CardWords.Kinds, required: true);
        var name = table.Text("name", required: true, maxLength: CardLimits.Name);
        var summary = table.Text("summary", required: true, maxLength: CardLimits.Summary);
        var description = table.Text("description", maxLength: CardLimits.Description);
        var licence = ReadLicence(table);
        var homepage = ReadHomepage(table);
        var developer = ReadDeveloper(table.Child("developer"));
        var categories = ReadCategories(table);
        var keywords = table.Texts("keywords");
        SignIn? signIn = table.Choice("sign_in", CardWords.SignIns) is var need && table.Has("sign_in") ? need : null;
        SignIn? licenceKey = table.Choice("licence_key", CardWords.SignIns) is var ask && table.Has("licence_key") ? ask : null;
        var attention = ReadAttention(table);
        var needs = ReadRelated(table, "needs");
        var conflicts = ReadRelated(table, "conflicts");
        var review = ReadReview(table.Child("review"));
        var placement = ReadPlacement(table.Child("place"));
        var releases = table.Children("releases").Select(ReadRelease).ToList();
        table.RefuseUnknownKeys();
        if (faults.Count > 0) return null;

        var card = new AppCard
        {
            Id = id!, Kind = kind, Name = name!, Summary = summary!, Description = description, Licence = licence,
            Homepage = homepage, Developer = developer, Categories = categories, Keywords = keywords, SignIn = signIn,
            LicenceKey = licenceKey, Attention = attention, Needs = needs ?? [], Conflicts = conflicts ?? [],
            Review = review, Placement = placement ?? Placement.Nothing, Releases = releases!,
        };
        foreach (var (key, message) in CardRules.Broken(card)) faults.Add(new FormatFault(file, root.LineOf(key), key, message));
        return card with { Releases = [.. card.Releases.OrderByDescending(release => release.Version)] };
    }

    private static string FileStem(string file) => file[(file.LastIndexOf('/') + 1)..^AppCard.FileEnding.Length];

    private static string? ReadLicence(TableReader table)
    {
        var licence = table.Text("project_license");
        if (licence is not null && !SpdxExpression.IsValid(licence))
            table.AddFault("project_license", $"expected {SpdxExpression.Expected}, found \"{licence}\"");
        return licence;
    }

    private static string? ReadHomepage(TableReader table)
    {
        var homepage = table.Text("homepage");
        if (homepage is not null && !CardLimits.IsHomepage(homepage))
            table.AddFault("homepage", $"expected an http: or https: address, found \"{homepage}\"");
        return homepage;
    }

    private static IReadOnlyList<string> ReadCategories(TableReader table)
    {
        var categories = table.Texts("categories");
        foreach (var unknown in categories.Where(category => !DesktopCategories.IsValid(category)))
            table.AddFault("categories", $"expected {DesktopCategories.Expected}, found \"{unknown}\"");
        return categories;
    }

    private static List<RelatedApp>? ReadRelated(TableReader table, string key)
    {
        var related = new List<RelatedApp>();
        foreach (var text in table.Texts(key))
        {
            if (RelatedApp.TryParse(text, out var other)) related.Add(other);
            else table.AddFault(key, $"expected {RelatedApp.Expected}, found \"{text}\"");
        }

        return table.Has(key) ? related : null;
    }

    private static List<ArtifactLocation> ReadMirrors(TableReader table)
    {
        var mirrors = new List<ArtifactLocation>();
        foreach (var text in table.Texts("mirrors", CardLimits.Text))
        {
            if (ArtifactLocation.TryParse(text, out var mirror)) mirrors.Add(mirror);
            else table.AddFault("mirrors", $"expected {ArtifactLocation.Expected}, found \"{text}\"");
        }

        if (mirrors.Count > CardLimits.Mirrors)
            table.AddFault("mirrors", $"expected at most {CardLimits.Mirrors}, found {mirrors.Count}");
        return mirrors;
    }

    private static List<Attention>? ReadAttention(TableReader table)
    {
        var attention = new List<Attention>();
        foreach (var word in table.Texts("attention"))
        {
            if (CardWords.Attentions.TryRead(word, out var known)) attention.Add(known);
            else table.AddFault(
                "attention",
                $"expected {string.Join(", ", CardWords.Attentions.Pairs.Select(pair => $"\"{pair.Word}\""))}, found \"{word}\"");
        }

        return table.Has("attention") ? attention : null;
    }

    private static Developer? ReadDeveloper(TableReader? table)
    {
        if (table is null) return null;
        var developer = new Developer(
            table.Text("name", required: true, maxLength: CardLimits.Name) ?? "", table.Text("id", maxLength: CardLimits.Name),
            table.Truth("vouched") is var vouched && table.Has("vouched") ? vouched : null);
        table.RefuseUnknownKeys();
        return developer;
    }

    private static Review ReadReview(TableReader? table)
    {
        if (table is null) return new Review(ReviewState.Unreviewed);
        var review = new Review(
            table.Choice("state", CardWords.ReviewStates, required: true), table.Date("date"),
            table.Text("by", maxLength: CardLimits.Name));
        table.RefuseUnknownKeys();
        return review;
    }

    private static Release? ReadRelease(TableReader table)
    {
        var version = table.Parsed<AppVersion>("version", AppVersion.TryParse, AppVersion.Expected, required: true);
        var date = table.Date("date", required: true);
        var line = table.Parsed<ReleaseLine>("line", ReleaseLine.TryParse, ReleaseLine.Expected);
        var notes = table.Text("description", maxLength: CardLimits.Description);
        var needs = ReadRelated(table, "needs");
        var conflicts = ReadRelated(table, "conflicts");
        var artifacts = table.Children("artifacts").Select(ReadArtifact).ToList();
        var placement = ReadPlacement(table.Child("place"));
        table.RefuseUnknownKeys();
        if (version is null || date is null) return null;
        return new Release
        {
            Version = version, Date = date.Value, DeclaredLine = line, Notes = notes, Artifacts = artifacts!,
            Placement = placement, Needs = needs, Conflicts = conflicts,
        };
    }

    private static Artifact? ReadArtifact(TableReader table)
    {
        var platform = table.Parsed<Platform>("platform", Platform.TryParse, Platform.Expected, required: true);
        var location =
            table.Parsed<ArtifactLocation>("location", ArtifactLocation.TryParse, ArtifactLocation.Expected, required: true);
        var mirrors = ReadMirrors(table);
        var form = table.Choice("form", CardWords.Forms, required: true);
        var sha256 = table.Parsed<Sha256Digest>("sha256", Sha256Digest.TryParse, Sha256Digest.Expected, required: true);
        var downloadSize = table.Number("download_size", 1, CardLimits.Size, required: true);
        var installedSize = table.Number("installed_size", 1, CardLimits.Size);
        var strip = table.Number("strip", 0, CardLimits.Strip);
        var fileName = table.Parsed<FileName>("filename", FileName.TryParse, FileName.Expected);
        var installer = ReadInstaller(table.Child("installer"));
        table.RefuseUnknownKeys();
        if (platform is null || location is null || sha256 is null || downloadSize is null) return null;
        return new Artifact
        {
            Platform = platform, Location = location, Mirrors = mirrors.Count == 0 ? Array.Empty<ArtifactLocation>() : mirrors,
            Form = form, Sha256 = sha256, DownloadSize = downloadSize.Value,
            InstalledSize = installedSize, StripFolders = (int)(strip ?? 0), FileName = fileName, Installer = installer,
        };
    }

    private static InstallerRules? ReadInstaller(TableReader? table)
    {
        if (table is null) return null;
        var usual = new InstallerRules();
        var rules = new InstallerRules
        {
            Arguments = table.Texts("arguments", CardLimits.Text),
            Fine = table.Has("fine") ? table.Numbers("fine", 0, CardLimits.ExitCode) : usual.Fine,
            Restart = table.Numbers("restart", 0, CardLimits.ExitCode),
            Seconds = (int)(table.Number("seconds", 1, CardLimits.InstallerSeconds) ?? usual.Seconds),
        };
        if (rules.Arguments.Any(argument => argument.Contains('\0', StringComparison.Ordinal)))
            table.AddFault("arguments", "expected strings without a zero character");
        table.RefuseUnknownKeys();
        return rules;
    }

    private static Placement? ReadPlacement(TableReader? table)
    {
        if (table is null) return null;
        var placement = new Placement
        {
            Commands = [.. table.Children("commands").Select(ReadCommand).OfType<PlacedCommand>()],
            DesktopEntries = [.. table.Children("desktop_entries").Select(ReadDesktopEntry).OfType<PlacedDesktopEntry>()],
            Icons = [.. table.Children("icons").Select(ReadIcon).OfType<PlacedIcon>()],
            MimeTypes = [.. table.Children("mime_types").Select(ReadFile).OfType<PlacedFile>()],
            ManualPages = [.. table.Children("manual_pages").Select(ReadFile).OfType<PlacedFile>()],
            Completions = [.. table.Children("completions").Select(ReadCompletion).OfType<PlacedCompletion>()],
            Fonts = [.. table.Children("fonts").Select(ReadFile).OfType<PlacedFile>()],
            Check = ReadCheck(table.Child("check")),
            Autostart = [.. table.Children("autostart").Select(ReadAutostart).OfType<PlacedAutostart>()],
        };
        table.RefuseUnknownKeys();
        return placement;
    }

    private static PlacedCommand? ReadCommand(TableReader table) =>
        ReadFile(table) is { } file ? new PlacedCommand(file.Name, file.Path) : null;

    private static PlacedFile? ReadFile(TableReader table)
    {
        var name = table.Parsed<FileName>("name", FileName.TryParse, FileName.Expected, required: true);
        var path = table.Parsed<InsidePath>("path", InsidePath.TryParse, InsidePath.Expected, required: true);
        table.RefuseUnknownKeys();
        return name is null || path is null ? null : new PlacedFile(name, path);
    }

    private static PlacedCompletion? ReadCompletion(TableReader table)
    {
        var shell = table.Choice("shell", CardWords.Shells, required: true);
        var command = table.Parsed<FileName>("command", FileName.TryParse, FileName.Expected, required: true);
        var path = table.Parsed<InsidePath>("path", InsidePath.TryParse, InsidePath.Expected, required: true);
        table.RefuseUnknownKeys();
        return command is null || path is null ? null : new PlacedCompletion(shell, command, path);
    }

    private static PlacedAutostart? ReadAutostart(TableReader table)
    {
        var name = table.Parsed<FileName>("name", FileName.TryParse, FileName.Expected, required: true);
        var command = table.Parsed<FileName>("command", FileName.TryParse, FileName.Expected, required: true);
        var arguments = ReadArguments(table);
        table.RefuseUnknownKeys();
        return name is null || command is null ? null : new PlacedAutostart(name, command, arguments);
    }

    private static StartCheck? ReadCheck(TableReader? table)
    {
        if (table is null) return null;
        var command = table.Parsed<FileName>("command", FileName.TryParse, FileName.Expected, required: true);
        var check = new StartCheck(
            command!, table.Texts("arguments", CardLimits.Text), table.Text("output", maxLength: CardLimits.Text) ?? "",
            (int)(table.Number("seconds", 1, CardLimits.CheckSeconds) ?? StartCheck.UsualSeconds));
        if (check.Arguments.Any(argument => argument.Any(char.IsControl)))
            table.AddFault("arguments", "expected strings without control characters");
        table.RefuseUnknownKeys();
        return command is null ? null : check;
    }

    private static string ReadArguments(TableReader table)
    {
        var arguments = table.Text("arguments") ?? "";
        if (arguments.Any(char.IsControl)) table.AddFault("arguments", "expected one line without control characters");
        return arguments;
    }

    private static PlacedDesktopEntry? ReadDesktopEntry(TableReader table)
    {
        var name = table.Parsed<FileName>("name", FileName.TryParse, FileName.Expected, required: true);
        var command = table.Parsed<FileName>("command", FileName.TryParse, FileName.Expected, required: true);
        var arguments = ReadArguments(table);
        var path = table.Parsed<InsidePath>("path", InsidePath.TryParse, InsidePath.Expected);
        var icon = table.Parsed<FileName>("icon", FileName.TryParse, FileName.Expected);
        table.RefuseUnknownKeys();
        return name is null || command is null ? null
            : new PlacedDesktopEntry { Name = name, Command = command, Arguments = arguments, Path = path, Icon = icon };
    }

    private static PlacedIcon? ReadIcon(TableReader table)
    {
        var name = table.Parsed<FileName>("name", FileName.TryParse, FileName.Expected, required: true);
        var path = table.Parsed<InsidePath>("path", InsidePath.TryParse, InsidePath.Expected, required: true);
        var size = table.Text("size", required: true);
        table.RefuseUnknownKeys();
        return name is null || path is null || size is null ? null : new PlacedIcon(name, path, size);
    }
}
