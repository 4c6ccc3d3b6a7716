using AmberCrate.Core.Values;

namespace AmberCrate.Core.Placements;

/// <summary>What an app puts outside the shelf so that people and the desktop find it.</summary>
public sealed record Placement
{
    /// <summary>Nothing.</summary>
    public static Placement Nothing { get; } = new();

    /// <summary>Commands in the folder for programs.</summary>
    public IReadOnlyList<PlacedCommand> Commands { get; init; } = [];

    /// <summary>Entries in the desktop's menu.</summary>
    public IReadOnlyList<PlacedDesktopEntry> DesktopEntries { get; init; } = [];

    /// <summary>Icons in the icon theme.</summary>
    public IReadOnlyList<PlacedIcon> Icons { get; init; } = [];

    /// <summary>Descriptions of file types, after the Shared MIME-info specification; named without <c>.xml</c>.</summary>
    public IReadOnlyList<PlacedFile> MimeTypes { get; init; } = [];

    /// <summary>Manual pages, named such as <c>scrim-paint.1</c> or <c>scrim-paint.1.gz</c>.</summary>
    public IReadOnlyList<PlacedFile> ManualPages { get; init; } = [];

    /// <summary>What shells need to complete its commands.</summary>
    public IReadOnlyList<PlacedCompletion> Completions { get; init; } = [];

    /// <summary>Fonts.</summary>
    public IReadOnlyList<PlacedFile> Fonts { get; init; } = [];

    /// <summary>
    /// The folders with its programs' own files, each kind once. If there are any, commands are started by a small launcher that
    /// sets the variables for them.
    /// </summary>
    public IReadOnlyList<OwnFolders> Folders { get; init; } = [];

    /// <summary>The folders with settings schemas of GLib, which are compiled when the app is put on the shelf.</summary>
    public IReadOnlyList<InsidePath> Schemas { get; init; } = [];

    /// <summary>
    /// Files and folders of the shelf entry that its programs name by the path that they would have below the root of the system.
    /// The launcher lays them there for these programs only.
    /// </summary>
    public IReadOnlyList<InsidePath> Mapped { get; init; } = [];

    /// <summary>The apps that this one needs and whose <see cref="Folders"/> its programs find too.</summary>
    public IReadOnlyList<AppId> Borrows { get; init; } = [];

    /// <summary>Whether commands are started by a launcher.</summary>
    public bool HasLauncher => Commands.Count > 0 && Folders.Count + Mapped.Count + Borrows.Count > 0;

    /// <summary>The folder of launchers in a shelf entry.</summary>
    public const string LauncherFolder = ".launch";

    /// <summary>What a command leads to in the shelf entry: its launcher where it needs one, otherwise its program.</summary>
    public InsidePath StartOf(PlacedCommand command) =>
        !HasLauncher ? command.Path : InsidePath.Parse($"{LauncherFolder}/{command.Name}");

    /// <summary>What is started once after placing, to see that it works; null for nothing.</summary>
    public StartCheck? Check { get; init; }

    /// <summary>What is started in the background when a user signs in.</summary>
    public IReadOnlyList<PlacedAutostart> Autostart { get; init; } = [];
}
