using System.Text.Json;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Cards;

/// <summary>Reads the line of a card. Stops at the first fault: a catalogue is taken over as a whole or not at all.</summary>
internal ref partial struct CardLineReader
{
    private readonly ReadOnlySpan<byte> _line;

    // Where releases and artifacts are left to be read when they are asked for: the line, and what a fault in it is then.
    private readonly ReadOnlyMemory<byte> _kept;
    private readonly Func<MalformedException, Exception>? _damaged;
    private Utf8JsonReader _json;
    private int _keyAt;

    // Where in the line the JSON reader began: behind what was passed over.
    private int _begin;

    // Where the reader is: list[number] of each object that it is in, the outer one and the inner one.
    private (string List, int Number) _outer;
    private (string List, int Number) _inner;

    /// <summary>Begins to read a line as a whole.</summary>
    public CardLineReader(ReadOnlySpan<byte> line)
    {
        _line = line;
        _json = new Utf8JsonReader(line);
    }

    /// <summary>Begins to read a line that was checked before; releases and artifacts are read when they are asked for.</summary>
    /// <param name="line">The line; it must not change after this.</param>
    /// <param name="damaged">What is thrown where it turns out faulty by then.</param>
    public CardLineReader(ReadOnlyMemory<byte> line, Func<MalformedException, Exception> damaged)
        : this(line.Span) => (_kept, _damaged) = (line, damaged);

    /// <summary>Whether the releases that were read stood in the line as they should, the newest first.</summary>
    public bool IsInOrder { get; private set; } = true;

    /// <summary>Reads the card.</summary>
    /// <exception cref="MalformedException">It is not one; the message says where and what was expected.</exception>
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
        var parts = new CardParts();
        BeginObject();
        while (NextKey())
        {
            if (Is("id"u8)) id = Parsed<AppId>(AppId.TryParse, AppId.Expected);
            else if (Is("type"u8)) kind = Choice(CardWords.Kinds);
            else if (Is("name"u8)) name = Text(CardLimits.Name, 1);
            else if (Is("summary"u8)) summary = Text(CardLimits.Summary, 1);
            else if (Is("description"u8)) description = Text(CardLimits.Description);
            else if (Is("developer"u8)) developer = ReadDeveloper();
            else if (Is("homepage"u8))
                homepage = Checked(Text(CardLimits.Text), CardLimits.IsHomepage, "an http: or https: address");
            else if (Is("project_license"u8))
                licence = Checked(Text(CardLimits.Text), SpdxExpression.IsValid, SpdxExpression.Expected);
            else if (Is("categories"u8)) categories = Texts(DesktopCategories.IsValid, DesktopCategories.Expected);
            else if (Is("keywords"u8)) keywords = Texts(word => word.Length > 0, $"strings of 1 to {CardLimits.Word} characters");
            else if (Is("sign_in"u8)) signIn = Choice(CardWords.SignIns);
            else if (Is("licence_key"u8)) licenceKey = Choice(CardWords.SignIns);
            else if (Is("attention"u8)) attention = Choices(CardWords.Attentions);
            else if (!ReadPart(parts)) throw Unknown();
        }

        return new AppCard
        {
            Id = id ?? throw Missing("id"), Kind = kind ?? throw Missing("type"), Name = name ?? throw Missing("name"),
            Summary = summary ?? throw Missing("summary"),
            Description = description, Developer = developer, Homepage = homepage, Licence = licence, Categories = categories,
            Keywords = keywords,
            SignIn = signIn, LicenceKey = licenceKey, Attention = attention,
            Needs = parts.Needs, Conflicts = parts.Conflicts, Review = parts.Review, Placement = parts.Placement,
            LaterPlacement = parts.LaterPlacement, Releases = parts.Releases ?? throw Missing("releases"),
        };
    }

    /// <summary>Reads a value that is more than a word or a list of words; false where the key is none of these.</summary>
    private bool ReadPart(CardParts parts)
    {
        if (Is("needs"u8)) parts.Needs = Related();
        else if (Is("conflicts"u8)) parts.Conflicts = Related();
        else if (Is("review"u8)) parts.Review = ReadReview();
        else if (Is("place"u8) && _damaged is null) parts.Placement = ReadPlacement();
        else if (Is("place"u8)) parts.LaterPlacement = Later((ref reader) => reader.ReadPlacement(), [Part()]);
        else if (Is("releases"u8)) parts.Releases = _damaged is null
            ? NewestFirst(Each((ref reader) => reader.ReadRelease(), "releases"))
            : Later((ref reader) => reader.ReadRelease(), Parts());
        else return false;
        return true;
    }

    private List<Release> NewestFirst(List<Release> releases)
    {
        for (var at = 1; at < releases.Count; at++)
            IsInOrder = IsInOrder && releases[at].Version.CompareTo(releases[at - 1].Version) <= 0;
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
            else if (Is("artifacts"u8)) artifacts = _damaged is null
                ? Each((ref reader) => reader.ReadArtifact(), "artifacts")
                : Later((ref reader) => reader.ReadArtifact(), Parts());
            else if (Is("place"u8)) placement = ReadPlacement();
            else throw Unknown();
        }

        return new Release
        {
            Version = version ?? throw Missing("version"), Date = date ?? throw Missing("date"), DeclaredLine = releaseLine,
            Notes = notes,
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
            Platform = platform ?? throw Missing("platform"), Location = location ?? throw Missing("location"),
            Mirrors = mirrors, Form = form ?? throw Missing("form"),
            Sha256 = sha256 ?? throw Missing("sha256"), DownloadSize = downloadSize ?? throw Missing("download_size"),
            InstalledSize = installedSize,
            StripFolders = strip, FileName = fileName, Installer = installer,
        };
    }

    /// <summary>What of a card has been read so far.</summary>
    private sealed class CardParts
    {
        public List<RelatedApp> Needs { get; set; } = [];

        public List<RelatedApp> Conflicts { get; set; } = [];

        public Review Review { get; set; } = new(ReviewState.Unreviewed);

        public Placement Placement { get; set; } = Placement.Nothing;

        public LaterList<Placement>? LaterPlacement { get; set; }

        public IReadOnlyList<Release>? Releases { get; set; }
    }
}
