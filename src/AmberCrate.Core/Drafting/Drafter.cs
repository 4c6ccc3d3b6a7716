using System.Text;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Placements;
using AmberCrate.Core.Requirements;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Drafting;

/// <summary>Makes a draft of what has been read of a vendor's files.</summary>
public sealed class Drafter
{
    private const int LongestName = 100, LongestSummary = 200, LongestText = 20_000;

    private static readonly HashSet<string> PlatformWords = new(
        "linux x86 64 amd64 x64 arm64 aarch64 i386 i686 gnu any noarch all".Split(' '), StringComparer.Ordinal);

    /// <summary>
    /// The menu categories for sections of Debian packages (Debian policy, 2.4), as far as a section says what an app is for.
    /// </summary>
    private static readonly Dictionary<string, string> SectionCategories = new(StringComparer.Ordinal)
    {
        ["admin"] = "System", ["comm"] = "Network Telephony", ["database"] = "Office Database", ["devel"] = "Development",
        ["editors"] = "Utility TextEditor", ["education"] = "Education", ["electronics"] = "Science Electronics",
        ["games"] = "Game", ["graphics"] = "Graphics", ["hamradio"] = "Network HamRadio", ["mail"] = "Network Email",
        ["math"] = "Science Math", ["net"] = "Network", ["news"] = "Network News", ["science"] = "Science",
        ["sound"] = "AudioVideo Audio", ["tex"] = "Office", ["utils"] = "Utility", ["vcs"] = "Development RevisionControl",
        ["video"] = "AudioVideo Video", ["web"] = "Network",
    };

    private static readonly string[] PreReleaseWords = ["alpha", "beta", "preview", "pre", "rc"];

    private readonly PackageGroup _group;
    private readonly PackageContents _contents;
    private readonly DateOnly _today;
    private readonly List<string> _questions;
    private readonly List<(string Path, ShippedEntry Entry)> _entries;

    private (bool IsRead, Metainfo? Metainfo) _told;

    /// <summary>Begins a draft of an app that comes in one file.</summary>
    /// <param name="contents">The file.</param>
    /// <param name="location">Where it is, as the card says it.</param>
    /// <param name="today">The day, for a file that tells no other.</param>
    public Drafter(PackageContents contents, string location, DateOnly today)
        : this(new PackageGroup([new DraftedFile(contents, location)]), today)
    {
    }

    /// <summary>Begins a draft of an app.</summary>
    /// <param name="group">Its files.</param>
    /// <param name="today">The day, for files that tell no other.</param>
    public Drafter(PackageGroup group, DateOnly today)
    {
        (_group, _contents, _today) = (group, group.Together, today);
        _questions = [.. _contents.Unread];
        _entries = [.. _contents.DesktopEntries
            .Select(file => (file.Path, Entry: ShippedEntry.Read(NameOf(file.Path, ".desktop"), file.Text)))
            .Where(file => file.Entry is { IsShown: true, Keys.Count: > 0 })];
        Requirements = new RequirementDrafter(_contents).Draft();
    }

    /// <summary>The metainfo of the app; null where there is none.</summary>
    private Metainfo? Told
    {
        get
        {
            if (!_told.IsRead) _told = (true, new IdentityDrafter(_contents, _entries, _questions).FindMetainfo());
            return _told.Metainfo;
        }
    }

    /// <summary>What the file's programs expect the system to have; null where the format is not looked into.</summary>
    public IReadOnlyList<SystemRequirement>? Requirements { get; }

    /// <summary>Drafts a card.</summary>
    public CardDraft Draft()
    {
        var entry = new IdentityDrafter(_contents, _entries, _questions).FindEntry(Told);
        var english = Told?.English;
        var placement = new PlacementDrafter(_contents, _entries, _questions).Draft();
        var id = IdOf(entry);
        AskForVersion();
        return new CardDraft
        {
            Id = id,
            Kind = KindOf(placement),
            Name = Cut(english?.Name ?? entry?.Value("Name"), LongestName) ?? Titled(id.Text),
            Summary = Cut(english?.Summary ?? entry?.Value("Comment") ?? entry?.Value("GenericName") ?? Control("Description"),
                LongestSummary),
            Description = Cut(english?.Description ?? ControlText(), LongestText),
            Developer = Cut(
                Told?.Developer ?? (_contents.Copyright is { } copyright ? CopyrightFile.FindMaker(copyright) : null),
                LongestName),
            Homepage = new[] { Told?.Homepage, Control("Homepage") }.FirstOrDefault(IsPage),
            Licence = LicenceOf(),
            Categories = CategoriesOf(entry),
            Keywords = Words(english?.Keywords.Count > 0 ? english.Keywords : entry?.List("Keywords") ?? []),
            MimeTypes = [.. (Told?.MimeTypes ?? []).Concat(_entries.SelectMany(file => file.Entry.List("MimeType")))
                .Select(type => MimeType.TryParse(type, out var known) ? known : null).OfType<string>().Distinct()],
            Screenshots = Told?.Screenshots ?? [],
            Translations = Translations(entry),
            SystemPackages = Control("Package") is { } package ? [package] : [],
            Placement = placement,
            Release = Release(null, null),
            Questions = _questions,
        };
    }

    /// <summary>
    /// The categories by the metainfo or the menu entry. If these name none, the section of a Debian package says something.
    /// </summary>
    private List<string> CategoriesOf(ShippedEntry? entry)
    {
        List<string> told = [.. (Told?.Categories.Count > 0 ? Told.Categories : entry?.List("Categories") ?? [])
            .Where(DesktopCategories.IsValid).Distinct()];
        return told.Count > 0 ? told
            : [.. SectionCategories.GetValueOrDefault(Control("Section")?.Split('/')[^1] ?? "", "")
                .Split(' ', StringSplitOptions.RemoveEmptyEntries)];
    }

    /// <summary>Drafts the release that the file delivers.</summary>
    /// <param name="version">Its version; null for what the file says.</param>
    /// <param name="line">Its line; null for the usual one.</param>
    public ReleaseDraft Release(AppVersion? version, ReleaseLine? line)
    {
        version ??= ToldVersion();
        var told = Told?.Releases.FirstOrDefault(release => release.Version == version?.Text)
            ?? Told?.Releases.FirstOrDefault(release => IsUpstreamOf(release.Version, version?.Text ?? ""));
        return new ReleaseDraft(version, told?.Date ?? _contents.Newest ?? _today, _group)
        {
            Urgency = told?.Urgency, Notes = Cut(told?.Notes, LongestText), Line = line,
            Requirements = Requirements,
        };
    }

    /// <summary>
    /// The licence by the metainfo, otherwise by the copyright file. The user is asked about names that are no SPDX licence.
    /// </summary>
    private string? LicenceOf()
    {
        if (Told?.Licence is { } told && SpdxExpression.IsValid(told)) return told;
        if (_contents.Copyright is not { } text) return null;
        var (licence, unknown) = CopyrightFile.Read(text);
        if (unknown.Count > 0)
            _questions.Add(
                $"Its copyright file names {string.Join(" and ", unknown.Take(5).Select(name => $"\"{name}\""))}, "
                    + "which is no licence of SPDX's list: which licence is it under?");
        return licence;
    }

    private static bool IsUpstreamOf(string upstream, string version) =>
        version.Length > upstream.Length && version.StartsWith(upstream, StringComparison.Ordinal)
            && version[upstream.Length] is '-' or '+';

    /// <summary>The version that the file tells: a package's own, the newest of its metainfo, or one in its name.</summary>
    private AppVersion? ToldVersion()
    {
        var package = Control("Version") is { } full ? full[(Epoch is { } epoch ? epoch.Length + 1 : 0)..] : null;
        var newest = Told?.Releases.Select(release => release.Version).FirstOrDefault();
        return new[] { package, newest, VersionIn(_contents.FileName) }
            .Select(text => text is not null && AppVersion.TryParse(text, out var version) ? version : null)
            .FirstOrDefault(version => version is not null);
    }

    /// <summary>The epoch of a Debian version, after deb-version(7): what is before the first colon; null where it has none, or
    /// 0.</summary>
    private string? Epoch => Control("Version")?.Split(':', 2) is [var epoch, _] && epoch.Trim('0').Length > 0 ? epoch : null;

    /// <summary>The version in a file's name: the first run of digits and dots, with what makes it a pre-release.</summary>
    private static string? VersionIn(string name) => PartsOf(name).Version;

    /// <summary>A file's name taken apart: what comes before the version, and the version; null where there is none.</summary>
    private static (string Before, string? Version) PartsOf(string name)
    {
        var parts = name.Split('-', '_', ' ', '~');
        for (var at = 0; at < parts.Length; at++)
        {
            var text = parts[at].StartsWith('v') ? parts[at][1..] : parts[at];
            var end = text.TakeWhile(letter => char.IsAsciiDigit(letter) || letter == '.').Count();
            if (text[..end].Trim('.') is not { Length: > 0 } found || !found.Contains('.', StringComparison.Ordinal)) continue;
            var before = parts[..at].Reverse().SkipWhile(part => PlatformWords.Contains(part.ToLowerInvariant())).Reverse();
            var after = end == text.Length && at + 1 < parts.Length ? PreReleaseIn(parts[at + 1]) : PreReleaseIn(text[end..]);
            return (string.Join('-', before), after is null ? found : $"{found}-{after}");
        }

        return (parts[0], null);
    }

    /// <summary>What makes a version a pre-release, such as rc1; null where the text begins with none.</summary>
    private static string? PreReleaseIn(string text)
    {
        var word = PreReleaseWords.FirstOrDefault(word => text.StartsWith(word, StringComparison.OrdinalIgnoreCase));
        if (word is null) return null;
        var digits = string.Concat(text[word.Length..].TrimStart('.').TakeWhile(char.IsAsciiDigit));
        var rest = text[word.Length..];
        return rest.Length > 0 && char.IsAsciiLetter(rest[0]) ? null : word + digits;
    }

    private void AskForVersion()
    {
        if (Control("Version") is null && Told?.Releases.Count is null or 0 && VersionIn(_contents.FileName) is { } guessed)
            _questions.Add($"The version {guessed} is from the file's name: is it right?");
        if (_contents.Newest is null) _questions.Add("The date of the release is today's: when did it come out?");
        if (Epoch is { } epoch)
            _questions.Add(
                $"The package's version is {Control("Version")}. A card's version has no epoch, so {epoch} is left out: "
                    + "a release from before that epoch would count as newer. Leave such releases out of the card.");
        if (Requirements is null)
            _questions.Add(
                "What it expects the system to have cannot be read from this format: "
                    + "name it as \"system\", as far as you know it.");
    }

    private AppId IdOf(ShippedEntry? entry)
    {
        var stem = PartsOf(_contents.FileName).Before;
        foreach (var text in new[] { Told?.Id, Control("Package"), entry?.Name, NameOf(stem, ".AppImage"), stem })
        {
            if (text is not null && AppId.TryParse(IdFrom(text), out var id)) return id;
        }

        return AppId.Parse("app");
    }

    /// <summary>The name of a file without its version and what comes after that; null for a name without a version.</summary>
    internal static string? NameWithoutVersion(string name) => PartsOf(name) is (var before, not null) ? before : null;

    private static string IdFrom(string text)
    {
        var id = new StringBuilder();
        foreach (var letter in NameOf(text, ".desktop").ToLowerInvariant())
        {
            var next = char.IsAsciiLetterLower(letter) || char.IsAsciiDigit(letter) ? letter : letter == '.' ? '.' : '-';
            if (char.IsAsciiLetterOrDigit(next) || (id.Length > 0 && char.IsAsciiLetterOrDigit(id[^1]))) id.Append(next);
        }

        return id.ToString().TrimEnd('-', '.');
    }

    private AppKind KindOf(Placement placement) => Told?.Type switch
    {
        "console-application" => AppKind.ConsoleApp,
        "runtime" => AppKind.Runtime,
        "font" => AppKind.Font,
        "desktop-application" or "desktop" => AppKind.DesktopApp,
        _ when placement.Fonts.Count > 0 && placement.Commands.Count == 0 => AppKind.Font,
        _ when _contents.Format == ArtifactFormat.AppImage => AppKind.DesktopApp,
        _ => _entries.Exists(file => file.Entry.Value("Terminal") != "true") ? AppKind.DesktopApp : AppKind.ConsoleApp,
    };

    private IReadOnlyList<Translation> Translations(ShippedEntry? entry)
    {
        var told = (Told?.Translations ?? []).Where(text => !IsEnglish(text.Language))
            .ToDictionary(text => text.Language, StringComparer.Ordinal);
        foreach (var text in (entry?.Translations ?? []).Where(text => !IsEnglish(text.Language)))
        {
            if (told.GetValueOrDefault(text.Language) is not { } known) told.Add(text.Language, text);
            else told[text.Language] = known with
            {
                Name = known.Name ?? text.Name,
                Summary = known.Summary ?? text.Summary,
                Keywords = known.Keywords.Count > 0 ? known.Keywords : text.Keywords,
            };
        }

        return
        [
            .. told.Values.OrderBy(text => text.Language, StringComparer.Ordinal).Select(text => text with
            {
                Name = Cut(text.Name, LongestName), Summary = Cut(text.Summary, LongestSummary),
                Description = Cut(text.Description, LongestText), Keywords = Words(text.Keywords),
            }),
        ];
    }

    /// <summary>English of any country is the card's own language, and no translation.</summary>
    private static bool IsEnglish(string language) => language.Split('_', '-', '@')[0] == "en";

    private static IReadOnlyList<string> Words(IEnumerable<string> words) =>
        [.. words.Where(word => word.Length is > 0 and <= LongestName).Distinct()];

    /// <summary>A field of a Debian package, its first line.</summary>
    private string? Control(string field) =>
        _contents.Control.GetValueOrDefault(field)?.Split('\n')[0].Trim() is { Length: > 0 } text ? text : null;

    /// <summary>The long description of a Debian package.</summary>
    private string? ControlText()
    {
        if (_contents.Control.GetValueOrDefault("Description") is not { } text || !text.Contains('\n')) return null;
        return string.Join('\n', text.Split('\n').Skip(1).Select(line => line.Trim()).Select(line => line == "." ? "" : line));
    }

    private static string? Cut(string? text, int most) =>
        text is null || text.Length == 0 ? null : text.Length <= most ? text : text[..(most - 1)].TrimEnd() + "…";

    private static bool IsPage(string? text) =>
        text is not null && Uri.TryCreate(text, UriKind.Absolute, out var uri) && uri.Scheme is "http" or "https";

    private static string Titled(string id) => string.Join(
        ' ',
        id.Split('.')[^1].Split('-', StringSplitOptions.RemoveEmptyEntries)
            .Select(word => char.ToUpperInvariant(word[0]) + word[1..]));

    private static string NameOf(string path, string ending)
    {
        var name = path[(path.LastIndexOf('/') + 1)..];
        return name.EndsWith(ending, StringComparison.OrdinalIgnoreCase) ? name[..^ending.Length] : name;
    }
}
