using System.Globalization;
using System.Text;
using System.Text.Json;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Cards;

/// <summary>Reads the line of a card. Stops at the first fault: a catalogue is taken over as a whole or not at all.</summary>
internal ref struct CardLineReader
{
    private readonly ReadOnlySpan<byte> _line;

    // Where releases and artifacts are left to be read when they are asked for: the line, and what a fault in it is then.
    private readonly ReadOnlyMemory<byte> _kept;
    private readonly Func<FormatException, Exception>? _damaged;
    private Utf8JsonReader _json;
    private int _keyAt;

    // Where the reader is: list[number] of each object that it is in, the outer one and the inner one.
    private (string List, int Number) _outer;
    private (string List, int Number) _inner;

    // Most artifacts of a card are for the same few platforms.
    private Platform? _lastPlatform;
    private string? _lastPlatformText;

    /// <summary>Begins to read a line as a whole.</summary>
    public CardLineReader(ReadOnlySpan<byte> line)
    {
        _line = line;
        _json = new Utf8JsonReader(line);
    }

    /// <summary>Begins to read a line that was checked before; releases and artifacts are read when they are asked for.</summary>
    /// <param name="line">The line; it must not change after this.</param>
    /// <param name="damaged">What is thrown where it turns out faulty by then.</param>
    public CardLineReader(ReadOnlyMemory<byte> line, Func<FormatException, Exception> damaged)
        : this(line.Span) => (_kept, _damaged) = (line, damaged);

    /// <summary>Whether the releases that were read stood in the line as they should, the newest first.</summary>
    public bool IsInOrder { get; private set; } = true;

    private delegate bool TextParser<T>(string text, out T? value);

    /// <summary>Reads the card.</summary>
    /// <exception cref="FormatException">It is not one; the message says where and what was expected.</exception>
    /// <exception cref="JsonException">It is not JSON.</exception>
    public AppCard Read()
    {
        _json.Read();
        var card = ReadCard();
        return !_json.Read() ? card : throw Fault("expected nothing behind the card");
    }

    private AppCard ReadCard()
    {
        AppId? id = null;
        AppKind? kind = null;
        string? name = null, summary = null, description = null, homepage = null, licence = null;
        Developer? developer = null;
        IReadOnlyList<string> categories = [], keywords = [];
        SignIn? signIn = null, licenceKey = null;
        List<Attention>? attention = null;
        List<RelatedApp> needs = [], conflicts = [];
        var review = new Review(ReviewState.Unreviewed);
        var placement = Placement.Nothing;
        IReadOnlyList<Release>? releases = null;
        BeginObject();
        while (NextKey())
        {
            if (Is("id"u8)) id = Parsed<AppId>(AppId.TryParse, AppId.Expected);
            else if (Is("type"u8)) kind = Choice(CardWords.Kinds);
            else if (Is("name"u8)) name = Text(CardLimits.Name, 1);
            else if (Is("summary"u8)) summary = Text(CardLimits.Summary, 1);
            else if (Is("description"u8)) description = Text(CardLimits.Description);
            else if (Is("developer"u8)) developer = ReadDeveloper();
            else if (Is("homepage"u8)) homepage = Checked(Text(CardLimits.Text), CardLimits.IsHomepage, "an http: or https: address");
            else if (Is("project_license"u8)) licence = Checked(Text(CardLimits.Text), SpdxExpression.IsValid, SpdxExpression.Expected);
            else if (Is("categories"u8)) categories = Texts(DesktopCategories.IsValid, DesktopCategories.Expected);
            else if (Is("keywords"u8)) keywords = Texts(word => word.Length > 0, $"strings of 1 to {CardLimits.Word} characters");
            else if (Is("sign_in"u8)) signIn = Choice(CardWords.SignIns);
            else if (Is("licence_key"u8)) licenceKey = Choice(CardWords.SignIns);
            else if (Is("attention"u8)) attention = Choices(CardWords.Attentions);
            else if (Is("needs"u8)) needs = Related();
            else if (Is("conflicts"u8)) conflicts = Related();
            else if (Is("review"u8)) review = ReadReview();
            else if (Is("place"u8)) placement = ReadPlacement();
            else if (Is("releases"u8)) releases = _damaged is null ? NewestFirst(Each((ref reader) => reader.ReadRelease(), "releases")) : Later((ref reader) => reader.ReadRelease(), Parts());
            else throw Unknown();
        }

        return new AppCard
        {
            Id = id ?? throw Missing("id"), Kind = kind ?? throw Missing("type"), Name = name ?? throw Missing("name"), Summary = summary ?? throw Missing("summary"),
            Description = description, Developer = developer, Homepage = homepage, Licence = licence, Categories = categories, Keywords = keywords,
            SignIn = signIn, LicenceKey = licenceKey, Attention = attention, Needs = needs, Conflicts = conflicts, Review = review, Placement = placement, Releases = releases ?? throw Missing("releases"),
        };
    }

    private List<Release> NewestFirst(List<Release> releases)
    {
        for (var at = 1; at < releases.Count; at++) IsInOrder = IsInOrder && releases[at].Version.CompareTo(releases[at - 1].Version) <= 0;
        return IsInOrder ? releases : [.. releases.OrderByDescending(release => release.Version)];
    }

    private Developer ReadDeveloper()
    {
        string? name = null, id = null;
        bool? isVouchedFor = null;
        BeginObject();
        while (NextKey())
        {
            if (Is("name"u8)) name = Text(CardLimits.Name, 1);
            else if (Is("id"u8)) id = Text(CardLimits.Name);
            else if (Is("vouched"u8)) isVouchedFor = Truth();
            else throw Unknown();
        }

        return new Developer(name ?? throw Missing("name"), id, isVouchedFor);
    }

    private Review ReadReview()
    {
        ReviewState? state = null;
        DateOnly? date = null;
        string? by = null;
        BeginObject();
        while (NextKey())
        {
            if (Is("state"u8)) state = Choice(CardWords.ReviewStates);
            else if (Is("date"u8)) date = Date();
            else if (Is("by"u8)) by = Text(CardLimits.Name);
            else throw Unknown();
        }

        return new Review(state ?? throw Missing("state"), date, by);
    }

    private Release ReadRelease()
    {
        AppVersion? version = null;
        DateOnly? date = null;
        ReleaseLine? releaseLine = null;
        string? notes = null;
        IReadOnlyList<Artifact>? artifacts = null;
        Placement? placement = null;
        List<RelatedApp>? needs = null, conflicts = null;
        BeginObject();
        while (NextKey())
        {
            if (Is("version"u8)) version = Parsed<AppVersion>(AppVersion.TryParse, AppVersion.Expected);
            else if (Is("date"u8)) date = Date();
            else if (Is("line"u8)) releaseLine = Parsed<ReleaseLine>(ReleaseLine.TryParse, ReleaseLine.Expected);
            else if (Is("description"u8)) notes = Text(CardLimits.Description);
            else if (Is("needs"u8)) needs = Related();
            else if (Is("conflicts"u8)) conflicts = Related();
            else if (Is("artifacts"u8)) artifacts = _damaged is null ? Each((ref reader) => reader.ReadArtifact(), "artifacts") : Later((ref reader) => reader.ReadArtifact(), Parts());
            else if (Is("place"u8)) placement = ReadPlacement();
            else throw Unknown();
        }

        return new Release
        {
            Version = version ?? throw Missing("version"), Date = date ?? throw Missing("date"), DeclaredLine = releaseLine, Notes = notes,
            Artifacts = artifacts ?? throw Missing("artifacts"), Placement = placement, Needs = needs, Conflicts = conflicts,
        };
    }

    private Artifact ReadArtifact()
    {
        Platform? platform = null;
        ArtifactLocation? location = null;
        IReadOnlyList<ArtifactLocation> mirrors = [];
        ArtifactForm? form = null;
        Sha256Digest? sha256 = null;
        long? downloadSize = null, installedSize = null;
        var strip = 0;
        FileName? fileName = null;
        InstallerRules? installer = null;
        BeginObject();
        while (NextKey())
        {
            if (Is("platform"u8)) platform = ReadPlatform();
            else if (Is("location"u8)) location = Parsed<ArtifactLocation>(ArtifactLocation.TryParse, ArtifactLocation.Expected);
            else if (Is("mirrors"u8)) mirrors = Mirrors();
            else if (Is("form"u8)) form = Choice(CardWords.Forms);
            else if (Is("sha256"u8)) sha256 = Parsed<Sha256Digest>(Sha256Digest.TryParse, Sha256Digest.Expected);
            else if (Is("download_size"u8)) downloadSize = Number(1, CardLimits.Size);
            else if (Is("installed_size"u8)) installedSize = Number(1, CardLimits.Size);
            else if (Is("strip"u8)) strip = (int)Number(0, CardLimits.Strip);
            else if (Is("installer"u8)) installer = ReadInstaller();
            else if (Is("filename"u8)) fileName = Parsed<FileName>(FileName.TryParse, FileName.Expected);
            else throw Unknown();
        }

        return new Artifact
        {
            Platform = platform ?? throw Missing("platform"), Location = location ?? throw Missing("location"), Mirrors = mirrors, Form = form ?? throw Missing("form"),
            Sha256 = sha256 ?? throw Missing("sha256"), DownloadSize = downloadSize ?? throw Missing("download_size"), InstalledSize = installedSize,
            StripFolders = strip, FileName = fileName, Installer = installer,
        };
    }

    private InstallerRules ReadInstaller()
    {
        var rules = new InstallerRules();
        BeginObject();
        while (NextKey())
        {
            if (Is("arguments"u8)) rules = rules with { Arguments = Texts(text => !text.Contains('\0', StringComparison.Ordinal), "strings without a zero character", CardLimits.Text) };
            else if (Is("fine"u8)) rules = rules with { Fine = Numbers(0, CardLimits.ExitCode) };
            else if (Is("restart"u8)) rules = rules with { Restart = Numbers(0, CardLimits.ExitCode) };
            else if (Is("seconds"u8)) rules = rules with { Seconds = (int)Number(1, CardLimits.InstallerSeconds) };
            else throw Unknown();
        }

        return rules;
    }

    private List<int> Numbers(int least, int most)
    {
        _json.Read();
        if (_json.TokenType != JsonTokenType.StartArray) throw Fault("expected an array of whole numbers");
        var numbers = new List<int>();
        while (_json.Read() && _json.TokenType != JsonTokenType.EndArray)
            numbers.Add(_json.TokenType == JsonTokenType.Number && _json.TryGetInt32(out var number) && number >= least && number <= most ? number : throw Fault($"expected whole numbers from {least} to {most}"));
        return numbers;
    }

    private Placement ReadPlacement()
    {
        List<PlacedCommand> commands = [];
        List<PlacedDesktopEntry> entries = [];
        List<PlacedIcon> icons = [];
        List<PlacedFile> mimeTypes = [], manualPages = [], fonts = [];
        List<PlacedCompletion> completions = [];
        List<PlacedAutostart> autostart = [];
        StartCheck? check = null;
        BeginObject();
        while (NextKey())
        {
            if (Is("commands"u8)) commands = Each((ref reader) => reader.ReadCommand(), "place.commands");
            else if (Is("desktop_entries"u8)) entries = Each((ref reader) => reader.ReadDesktopEntry(), "place.desktop_entries");
            else if (Is("icons"u8)) icons = Each((ref reader) => reader.ReadIcon(), "place.icons");
            else if (Is("mime_types"u8)) mimeTypes = Each((ref reader) => reader.ReadFile(), "place.mime_types");
            else if (Is("manual_pages"u8)) manualPages = Each((ref reader) => reader.ReadFile(), "place.manual_pages");
            else if (Is("completions"u8)) completions = Each((ref reader) => reader.ReadCompletion(), "place.completions");
            else if (Is("fonts"u8)) fonts = Each((ref reader) => reader.ReadFile(), "place.fonts");
            else if (Is("check"u8)) check = ReadCheck();
            else if (Is("autostart"u8)) autostart = Each((ref reader) => reader.ReadAutostart(), "place.autostart");
            else throw Unknown();
        }

        return new Placement
        {
            Commands = commands, DesktopEntries = entries, Icons = icons, MimeTypes = mimeTypes, ManualPages = manualPages,
            Completions = completions, Fonts = fonts, Autostart = autostart, Check = check,
        };
    }

    private PlacedCommand ReadCommand()
    {
        var file = ReadFile();
        return new PlacedCommand(file.Name, file.Path);
    }

    private StartCheck ReadCheck()
    {
        FileName? command = null;
        IReadOnlyList<string> arguments = [];
        var (output, seconds) = ("", StartCheck.UsualSeconds);
        BeginObject();
        while (NextKey())
        {
            if (Is("command"u8)) command = Parsed<FileName>(FileName.TryParse, FileName.Expected);
            else if (Is("arguments"u8)) arguments = Texts(text => !text.Any(char.IsControl), "strings without control characters", CardLimits.Text);
            else if (Is("output"u8)) output = Text(CardLimits.Text);
            else if (Is("seconds"u8)) seconds = (int)Number(1, CardLimits.CheckSeconds);
            else throw Unknown();
        }

        return new StartCheck(command ?? throw Missing("command"), arguments, output, seconds);
    }

    private PlacedFile ReadFile()
    {
        FileName? name = null;
        InsidePath? path = null;
        BeginObject();
        while (NextKey())
        {
            if (Is("name"u8)) name = Parsed<FileName>(FileName.TryParse, FileName.Expected);
            else if (Is("path"u8)) path = Parsed<InsidePath>(InsidePath.TryParse, InsidePath.Expected);
            else throw Unknown();
        }

        return new PlacedFile(name ?? throw Missing("name"), path ?? throw Missing("path"));
    }

    private PlacedCompletion ReadCompletion()
    {
        CompletionShell? shell = null;
        FileName? command = null;
        InsidePath? path = null;
        BeginObject();
        while (NextKey())
        {
            if (Is("shell"u8)) shell = Choice(CardWords.Shells);
            else if (Is("command"u8)) command = Parsed<FileName>(FileName.TryParse, FileName.Expected);
            else if (Is("path"u8)) path = Parsed<InsidePath>(InsidePath.TryParse, InsidePath.Expected);
            else throw Unknown();
        }

        return new PlacedCompletion(shell ?? throw Missing("shell"), command ?? throw Missing("command"), path ?? throw Missing("path"));
    }

    private PlacedAutostart ReadAutostart()
    {
        FileName? name = null, command = null;
        var arguments = "";
        BeginObject();
        while (NextKey())
        {
            if (Is("name"u8)) name = Parsed<FileName>(FileName.TryParse, FileName.Expected);
            else if (Is("command"u8)) command = Parsed<FileName>(FileName.TryParse, FileName.Expected);
            else if (Is("arguments"u8)) arguments = Arguments();
            else throw Unknown();
        }

        return new PlacedAutostart(name ?? throw Missing("name"), command ?? throw Missing("command"), arguments);
    }

    private PlacedDesktopEntry ReadDesktopEntry()
    {
        FileName? name = null, command = null, icon = null;
        InsidePath? path = null;
        var arguments = "";
        BeginObject();
        while (NextKey())
        {
            if (Is("name"u8)) name = Parsed<FileName>(FileName.TryParse, FileName.Expected);
            else if (Is("command"u8)) command = Parsed<FileName>(FileName.TryParse, FileName.Expected);
            else if (Is("arguments"u8)) arguments = Arguments();
            else if (Is("path"u8)) path = Parsed<InsidePath>(InsidePath.TryParse, InsidePath.Expected);
            else if (Is("icon"u8)) icon = Parsed<FileName>(FileName.TryParse, FileName.Expected);
            else throw Unknown();
        }

        return new PlacedDesktopEntry { Name = name ?? throw Missing("name"), Command = command ?? throw Missing("command"), Arguments = arguments, Path = path, Icon = icon };
    }

    private PlacedIcon ReadIcon()
    {
        FileName? name = null;
        InsidePath? path = null;
        string? size = null;
        BeginObject();
        while (NextKey())
        {
            if (Is("name"u8)) name = Parsed<FileName>(FileName.TryParse, FileName.Expected);
            else if (Is("path"u8)) path = Parsed<InsidePath>(InsidePath.TryParse, InsidePath.Expected);
            else if (Is("size"u8)) size = Text(CardLimits.Text);
            else throw Unknown();
        }

        return new PlacedIcon(name ?? throw Missing("name"), path ?? throw Missing("path"), size ?? throw Missing("size"));
    }

    private delegate T ItemReader<out T>(ref CardLineReader reader);

    /// <summary>Reads an array of objects.</summary>
    private List<T> Each<T>(ItemReader<T> read, string list)
    {
        _json.Read();
        if (_json.TokenType != JsonTokenType.StartArray) throw Fault("expected an array");
        var isOuter = _outer.List is null;
        var items = new List<T>();
        while (_json.Read() && _json.TokenType != JsonTokenType.EndArray)
        {
            if (isOuter) _outer = (list, items.Count + 1);
            else _inner = (list, items.Count + 1);
            items.Add(read(ref this));
        }

        if (isOuter) _outer = default;
        else _inner = default;
        return items;
    }

    /// <summary>Passes over an array of objects.</summary>
    /// <returns>Where each of them is.</returns>
    private (int At, int Length)[] Parts()
    {
        _json.Read();
        if (_json.TokenType != JsonTokenType.StartArray) throw Fault("expected an array");
        var parts = new List<(int At, int Length)>();
        while (_json.Read() && _json.TokenType != JsonTokenType.EndArray)
        {
            var start = (int)_json.TokenStartIndex;
            _json.Skip();
            parts.Add((start, (int)_json.BytesConsumed - start));
        }

        return [.. parts];
    }

    /// <summary>A list of objects, each read when it is asked for.</summary>
    private readonly LaterList<T> Later<T>(ItemReader<T> read, (int At, int Length)[] parts)
        where T : class
    {
        var (line, damaged) = (_kept, _damaged!);
        return new LaterList<T>(parts.Length, at =>
        {
            try
            {
                var reader = new CardLineReader(line.Slice(parts[at].At, parts[at].Length), damaged);
                reader._json.Read();
                return read(ref reader);
            }
            catch (FormatException fault)
            {
                throw damaged(fault);
            }
        });
    }

    /// <summary>Makes sure that an object begins: where the reader is, or behind the key on which it is.</summary>
    private void BeginObject()
    {
        if (_json.TokenType == JsonTokenType.PropertyName) _json.Read();
        if (_json.TokenType != JsonTokenType.StartObject) throw Fault("expected an object");
    }

    private bool NextKey()
    {
        if (!_json.Read() || _json.TokenType != JsonTokenType.PropertyName) return false;
        _keyAt = (int)_json.TokenStartIndex + 1;
        return true;
    }

    private readonly bool Is(ReadOnlySpan<byte> key) => _json.ValueTextEquals(key);

    private string Text(int most, int least = 0)
    {
        _json.Read();
        return TextHere(most, least);
    }

    private readonly string TextHere(int most, int least)
    {
        if (_json.TokenType != JsonTokenType.String) throw Fault("expected a string");
        var text = _json.GetString()!;
        if (text.Length < least) throw Fault("expected a string that is not empty, found \"\"");
        return text.Length <= most ? text : throw Fault($"expected at most {most} characters, found {text.Length}");
    }

    private List<string> Texts(Func<string, bool> isValid, string expected, int maxLength = CardLimits.Word)
    {
        _json.Read();
        if (_json.TokenType != JsonTokenType.StartArray) throw Fault("expected an array of strings");
        var texts = new List<string>();
        while (_json.Read() && _json.TokenType != JsonTokenType.EndArray)
        {
            if (_json.TokenType != JsonTokenType.String) throw Fault("expected an array of strings");
            var text = _json.GetString()!;
            texts.Add(text.Length <= maxLength ? Checked(text, isValid, expected) : throw Fault($"expected at most {maxLength} characters, found {text.Length}"));
        }

        return texts;
    }

    private Platform ReadPlatform()
    {
        _json.Read();
        if (_lastPlatformText is not null && _json.TokenType == JsonTokenType.String && _json.ValueTextEquals(_lastPlatformText)) return _lastPlatform!;
        var text = TextHere(CardLimits.Text, 1);
        _lastPlatform = Platform.TryParse(text, out var platform) ? platform : throw Fault($"expected {Platform.Expected}, found {Shown(text)}");
        _lastPlatformText = text;
        return _lastPlatform;
    }

    private T Parsed<T>(TextParser<T> parse, string expected)
        where T : class
    {
        var text = Text(CardLimits.Description);
        return parse(text, out var value) ? value! : throw Fault($"expected {expected}, found {Shown(text)}");
    }

    private readonly string Checked(string text, Func<string, bool> isValid, string expected) => isValid(text) ? text : throw Fault($"expected {expected}, found {Shown(text)}");

    private List<RelatedApp> Related() => Texts(text => RelatedApp.TryParse(text, out _), RelatedApp.Expected).ConvertAll(RelatedApp.Parse);

    private List<ArtifactLocation> Mirrors()
    {
        var mirrors = Texts(text => ArtifactLocation.TryParse(text, out _), ArtifactLocation.Expected, CardLimits.Text).ConvertAll(ArtifactLocation.Parse);
        return mirrors.Count <= CardLimits.Mirrors ? mirrors : throw Fault($"expected at most {CardLimits.Mirrors} mirrors, found {mirrors.Count}");
    }

    private string Arguments() => Checked(Text(CardLimits.Text), text => !text.Any(char.IsControl), "one line without control characters");

    private bool Truth()
    {
        _json.Read();
        return _json.TokenType is JsonTokenType.True or JsonTokenType.False ? _json.GetBoolean() : throw Fault("expected true or false");
    }

    private List<T> Choices<T>(IReadOnlyList<(string Word, T Value)> words)
    {
        var chosen = new List<T>();
        foreach (var text in Texts(text => words.Any(pair => pair.Word == text), $"one of {string.Join(", ", words.Select(pair => pair.Word))}"))
            chosen.Add(words.First(pair => pair.Word == text).Value);
        return chosen;
    }

    private T Choice<T>(IReadOnlyList<(string Word, T Value)> words)
    {
        _json.Read();
        if (_json.TokenType == JsonTokenType.String)
        {
            foreach (var (word, value) in words)
            {
                if (_json.ValueTextEquals(word)) return value;
            }
        }

        throw Fault($"expected one of {string.Join(", ", words.Select(pair => pair.Word))}");
    }

    private long Number(long least, long most)
    {
        _json.Read();
        return _json.TokenType == JsonTokenType.Number && _json.TryGetInt64(out var number) && number >= least && number <= most
            ? number
            : throw Fault($"expected a whole number from {least} to {most}");
    }

    private DateOnly Date() => DateOnly.TryParseExact(Text(CardLimits.Text), "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var date)
        ? date
        : throw Fault("expected a date such as 2026-09-01");

    private static string Shown(string text) => text.Length <= CardLimits.Word ? $"\"{text}\"" : $"\"{text[..CardLimits.Word]}…\"";

    private readonly string Path() => (_outer.List is null ? "" : $"{_outer.List}[{_outer.Number}].") + (_inner.List is null ? "" : $"{_inner.List}[{_inner.Number}].");

    private readonly FormatException Unknown() => new($"{Path()}{_json.GetString()}: unknown key");

    private readonly FormatException Missing(string key) => new($"{Path()}{key}: the key is missing");

    /// <summary>A fault in the value of the key that was read last.</summary>
    private readonly FormatException Fault(string what)
    {
        var key = _keyAt == 0 ? "" : Encoding.UTF8.GetString(_line[_keyAt..][.._line[_keyAt..].IndexOf((byte)'"')]);
        return new FormatException($"{Path()}{key}{(key.Length > 0 ? ": " : "")}{what}");
    }
}
