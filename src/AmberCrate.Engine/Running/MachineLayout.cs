using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;

namespace AmberCrate.Engine.Running;

/// <summary>Where everything of one root lies. See docs/architecture.md for the tree.</summary>
public sealed record MachineLayout
{
    private MachineLayout(string programs, string data, string state, string cache, string config, string downloads)
    {
        DownloadsFolder = downloads;
        BinFolder = programs;
        DataFolder = data;
        StateFolder = Path.Combine(state, "amber-crate");
        CacheFolder = Path.Combine(cache, "amber-crate");
        ConfigFolder = config;
        CredentialsFile = Path.Combine(config, "amber-crate", "credentials.toml");
    }

    /// <summary>The folder for commands.</summary>
    public string BinFolder { get; }

    /// <summary>The folder for data, which holds menu entries, icons and our own.</summary>
    public string DataFolder { get; }

    /// <summary>The folder of records and lock.</summary>
    public string StateFolder { get; }

    /// <summary>The folder of what can be fetched again.</summary>
    public string CacheFolder { get; }

    /// <summary>The folder for configuration, which holds what is started at sign-in.</summary>
    public string ConfigFolder { get; }

    /// <summary>The credentials of private catalogues.</summary>
    public string CredentialsFile { get; }

    /// <summary>Where installed versions live.</summary>
    public string ShelfFolder => Path.Combine(DataFolder, "amber-crate", "shelf");

    /// <summary>Where the links to the live versions are.</summary>
    public string FrontFolder => Path.Combine(DataFolder, "amber-crate", "front");

    /// <summary>The database of records.</summary>
    public string RecordsFile => Path.Combine(StateFolder, "records.db");

    /// <summary>The logs of runs, a folder for each.</summary>
    public string LogsFolder => Path.Combine(StateFolder, "logs");

    /// <summary>The lock that one writer holds.</summary>
    public string LockFile => Path.Combine(StateFolder, "lock");

    /// <summary>The database of what catalogues offer.</summary>
    public string CataloguesFile => Path.Combine(CacheFolder, "catalogues.db");

    /// <summary>Downloaded artifacts, named by digest. One folder serves all roots of a user: what is in it is verified before it is used.</summary>
    public string DownloadsFolder { get; init; }

    /// <summary>The layout of the person who runs the program, after the XDG Base Directory specification.</summary>
    /// <param name="variable">Reads an environment variable.</param>
    public static MachineLayout OfUser(Func<string, string?> variable)
    {
        var home = variable("HOME") is { Length: > 0 } set ? set : "/";
        return new MachineLayout(
            Path.Combine(home, ".local", "bin"),
            Xdg("XDG_DATA_HOME", ".local/share"),
            Xdg("XDG_STATE_HOME", ".local/state"),
            Xdg("XDG_CACHE_HOME", ".cache"),
            Xdg("XDG_CONFIG_HOME", ".config"),
            variable("ACRATE_CACHE") is { Length: > 0 } named ? Path.GetFullPath(named) : Path.Combine(Xdg("XDG_CACHE_HOME", ".cache"), "amber-crate", "downloads"));

        // The specification: paths must be absolute, relative ones are ignored.
        string Xdg(string name, string otherwise) =>
            variable(name) is { } folder && folder.StartsWith('/') ? folder : Path.Combine(home, otherwise);
    }

    /// <summary>The layout below another folder, which is treated as a home folder without any environment variables. Downloads are in it too.</summary>
    public static MachineLayout Under(string root) => OfUser(name => name == "HOME" ? Path.GetFullPath(root) : null);

    /// <summary>The layout below another folder, with the downloads of the person who runs the program.</summary>
    public static MachineLayout Under(string root, Func<string, string?> variable) => Under(root) with { DownloadsFolder = OfUser(variable).DownloadsFolder };

    /// <summary>The absolute path of something placed.</summary>
    public string PathOf(PlaceKind kind, string name) => kind switch
    {
        PlaceKind.Command => Path.Combine(BinFolder, name),
        PlaceKind.DesktopEntry => Path.Combine(DataFolder, "applications", name),
        PlaceKind.Icon => Path.Combine(DataFolder, "icons", "hicolor", name),
        PlaceKind.MimeType => Path.Combine(DataFolder, "mime", "packages", name),
        PlaceKind.ManualPage => Path.Combine(DataFolder, "man", name),
        PlaceKind.Completion => Path.Combine(DataFolder, name),
        PlaceKind.Font => Path.Combine(DataFolder, "fonts", name),
        PlaceKind.Autostart => Path.Combine(ConfigFolder, "autostart", name),
        _ => throw new ArgumentOutOfRangeException(nameof(kind), kind, "not a place"),
    };

    /// <summary>The folder of an app's versions.</summary>
    public string ShelfOf(AppId id) => Path.Combine(ShelfFolder, id.Text);

    /// <summary>The link to an app's live version.</summary>
    public string FrontOf(AppId id) => Path.Combine(FrontFolder, id.Text);
}
