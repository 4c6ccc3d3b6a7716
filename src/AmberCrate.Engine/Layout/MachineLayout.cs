using AmberCrate.Core.Machine;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Storage;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Layout;

/// <summary>Where everything of one root lies. See docs/architecture.md for the tree.</summary>
public sealed record MachineLayout
{
    private const string OwnName = "amber-crate";

    private MachineLayout()
    {
    }

    /// <summary>Whom its apps are installed for.</summary>
    public InstallScope Scope { get; private init; }

    /// <summary>The folder for commands.</summary>
    public required string BinFolder { get; init; }

    /// <summary>The folder for data, which holds menu entries, icons and fonts.</summary>
    public required string DataFolder { get; init; }

    /// <summary>The folder of what is installed.</summary>
    public required string OwnFolder { get; init; }

    /// <summary>The folder of records and lock.</summary>
    public required string StateFolder { get; init; }

    /// <summary>The folder of what can be downloaded again.</summary>
    public required string CacheFolder { get; init; }

    /// <summary>The folder for configuration, which holds what is started at sign-in.</summary>
    public required string ConfigFolder { get; init; }

    /// <summary>The credentials of private catalogues.</summary>
    public required string CredentialsFile { get; init; }

    /// <summary>What has been set for everybody who uses this layout.</summary>
    public required string SettingsFile { get; init; }

    /// <summary>The home folder, where apps keep settings; null where that is everyone's own.</summary>
    public string? HomeFolder { get; private init; }

    /// <summary>The path of something that an app keeps in a user's home; null where that is everyone's own.</summary>
    /// <param name="path">As <see cref="Core.Placements.SettingsPath"/> has it.</param>
    public string? SettingsOf(string path)
    {
        if (HomeFolder is null) return null;
        foreach (var (prefix, folder) in new[]
        {
            ("~/.config/", ConfigFolder), ("~/.local/share/", DataFolder),
            ("~/.local/state/", Path.GetDirectoryName(StateFolder)!), ("~/.cache/", Path.GetDirectoryName(CacheFolder)!),
        })
        {
            if (path.StartsWith(prefix, StringComparison.Ordinal)) return Path.Combine(folder, path[prefix.Length..]);
        }

        return null;
    }

    /// <summary>Where installed versions live.</summary>
    public string ShelfFolder => Path.Combine(OwnFolder, "shelf");

    /// <summary>Where the links to the live versions are.</summary>
    public string FrontFolder => Path.Combine(OwnFolder, "front");

    /// <summary>The database of records.</summary>
    public string RecordsFile => Path.Combine(StateFolder, DatabaseRepair.RecordsName);

    /// <summary>The logs of runs, a folder for each.</summary>
    public string LogsFolder => Path.Combine(StateFolder, "logs");

    /// <summary>The lock that one writer holds.</summary>
    public string LockFile => Path.Combine(StateFolder, "lock");

    /// <summary>What is believed of signed catalogues.</summary>
    public string TrustFolder => Path.Combine(StateFolder, "trust");

    /// <summary>Files that hold a little room on the disk, for removing apps when it is full.</summary>
    public string ReserveFolder => Path.Combine(StateFolder, "reserve");

    /// <summary>The database of what catalogues offer.</summary>
    public string CataloguesFile => Path.Combine(CacheFolder, DatabaseRepair.CataloguesName);

    /// <summary>
    /// Downloaded artifacts, named by digest. One folder serves all roots of a user: what is in it is verified before it is used.
    /// </summary>
    public required string DownloadsFolder { get; init; }

    /// <summary>The layout of the user who runs the program, after the XDG Base Directory specification.</summary>
    /// <param name="variable">Reads an environment variable.</param>
    public static MachineLayout OfUser(Func<string, string?> variable)
    {
        var home = variable("HOME") is { Length: > 0 } set ? set : "/";
        var (data, cache, config) =
            (Xdg("XDG_DATA_HOME", ".local/share"), Xdg("XDG_CACHE_HOME", ".cache"), Xdg("XDG_CONFIG_HOME", ".config"));
        return new MachineLayout
        {
            HomeFolder = home,
            BinFolder = Path.Combine(home, ".local", "bin"),
            DataFolder = data,
            OwnFolder = Path.Combine(data, OwnName),
            StateFolder = Path.Combine(Xdg("XDG_STATE_HOME", ".local/state"), OwnName),
            CacheFolder = Path.Combine(cache, OwnName),
            ConfigFolder = config,
            CredentialsFile = Path.Combine(config, OwnName, "catalogue-access.toml"),
            SettingsFile = Path.Combine(config, OwnName, SettingsReader.FileName),
            DownloadsFolder = Path.Combine(cache, OwnName, "downloads"),
        };

        // The specification: paths must be absolute, relative ones are ignored.
        string Xdg(string name, string otherwise) =>
            variable(name) is { } folder && folder.StartsWith('/') ? folder : Path.Combine(home, otherwise);
    }

    /// <summary>
    /// The layout of everyone on the machine, after the Filesystem Hierarchy Standard 3.0: what is installed is below /opt, what
    /// is placed below /usr/local, records are below /var/lib.
    /// </summary>
    /// <param name="root">The folder that counts as /.</param>
    public static MachineLayout OfAllUsers(string root = "/")
    {
        var top = Path.GetFullPath(root);
        return new MachineLayout
        {
            Scope = InstallScope.AllUsers,
            BinFolder = Path.Combine(top, "usr", "local", "bin"),
            DataFolder = Path.Combine(top, "usr", "local", "share"),
            OwnFolder = Path.Combine(top, "opt", OwnName),
            StateFolder = Path.Combine(top, "var", "lib", OwnName),
            CacheFolder = Path.Combine(top, "var", "cache", OwnName),
            ConfigFolder = Path.Combine(top, "etc", "xdg"),
            CredentialsFile = Path.Combine(top, "etc", OwnName, "catalogue-access.toml"),
            SettingsFile = Path.Combine(top, "etc", OwnName, SettingsReader.FileName),
            DownloadsFolder = Path.Combine(top, "var", "cache", OwnName, "downloads"),
        };
    }

    /// <summary>
    /// The layout below another folder, which is treated as a home folder without any environment variables. Downloads are in it
    /// too.
    /// </summary>
    public static MachineLayout Under(string root) => OfUser(name => name == "HOME" ? Path.GetFullPath(root) : null);

    /// <summary>The layout below another folder, with the downloads of the user who runs the program.</summary>
    public static MachineLayout Under(string root, Func<string, string?> variable) =>
        Under(root) with { DownloadsFolder = OfUser(variable).DownloadsFolder };

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
    };

    /// <summary>The folder of an app's versions.</summary>
    public string ShelfOf(AppId id) => Path.Combine(ShelfFolder, id.Text);

    /// <summary>The link to an app's live version.</summary>
    public string FrontOf(AppId id) => Path.Combine(FrontFolder, id.Text);

    /// <summary>Whether this process may write what can be downloaded again.</summary>
    public bool CanWriteCache => Posix.CanWrite(NearestThatIsThere(CacheFolder));

    /// <summary>A folder, or the nearest above it that is there; a file where one is in its place.</summary>
    public static string NearestThatIsThere(string folder)
    {
        var existing = folder;
        while (!Directory.Exists(existing) && !File.Exists(existing)) existing = Path.GetDirectoryName(existing)!;
        return existing;
    }
}
