using AmberCrate.Core.Formats;
using AmberCrate.Core.Placements;
using AmberCrate.Core.Values;
using static AmberCrate.Core.CardFiles.CardFormats;

namespace AmberCrate.Core.CardFiles;

/// <summary>The keys of what is placed.</summary>
internal static class PlacementKeys
{
    /// <summary>Its key, in a card and in a release.</summary>
    public const string Name = "place";

    /// <summary>The keys of <c>place</c>.</summary>
    public static readonly KeyTable<Placement> Table = new(values => new Placement
    {
        Commands = Commands!.In(values), DesktopEntries = DesktopEntries!.In(values), Icons = Icons!.In(values),
        MimeTypes = MimeTypes!.In(values), ManualPages = ManualPages!.In(values), Completions = Completions!.In(values),
        Fonts = Fonts!.In(values), Autostart = Autostart!.In(values), Check = Check!.In(values),
        Folders = Folders!.In(values)?.List ?? [], Schemas = Schemas!.In(values), Mapped = Mapped!.In(values),
        Borrows = Borrows!.In(values),
    });

    private static readonly Key<Placement, IReadOnlyList<PlacedCommand>> Commands = Table.Optional(
        "commands", Many(CommandKeys.Table), [], place => place.Commands, "placed as links through `front/<id>`");

    private static readonly Key<Placement, IReadOnlyList<PlacedDesktopEntry>> DesktopEntries = Table.Optional(
        "desktop_entries", Many(DesktopEntryKeys.Table), [], place => place.DesktopEntries, "entries in the desktop's menu");

    private static readonly Key<Placement, IReadOnlyList<PlacedIcon>> Icons = Table.Optional(
        "icons", Many(IconKeys.Table), [], place => place.Icons, "placed in the hicolor theme");

    private static readonly Key<Placement, IReadOnlyList<PlacedFile>> MimeTypes = Table.Optional(
        "mime_types", Many(FileKeys.Table), [], place => place.MimeTypes,
        "descriptions of file types, after the Shared MIME-info specification; named without `.xml`");

    private static readonly Key<Placement, IReadOnlyList<PlacedFile>> ManualPages = Table.Optional(
        "manual_pages", Many(FileKeys.Table), [], place => place.ManualPages,
        "named such as `scrim-paint.1` or `scrim-paint.1.gz`");

    private static readonly Key<Placement, IReadOnlyList<PlacedCompletion>> Completions = Table.Optional(
        "completions", Many(CompletionKeys.Table), [], place => place.Completions, "what shells need to complete its commands");

    private static readonly Key<Placement, IReadOnlyList<PlacedFile>> Fonts = Table.Optional(
        "fonts", Many(FileKeys.Table), [], place => place.Fonts, "placed in a folder of the app among the fonts");

    private static readonly Key<Placement, IReadOnlyList<PlacedAutostart>> Autostart = Table.Optional(
        "autostart", Many(AutostartKeys.Table), [], place => place.Autostart,
        "started in the background at every sign-in, after the Desktop Application Autostart specification. The plan says so");

    private static readonly Key<Placement, FolderKeys.Lists?> Folders = Table.Optional(
        "folders", One(FolderKeys.Table), place => place.Folders.Count == 0 ? null : new FolderKeys.Lists(place.Folders),
        "where its programs find their own files, for an app that was built for `/usr`; apps that borrow from it find them too");

    private static readonly Key<Placement, IReadOnlyList<InsidePath>> Schemas = Table.Optional(
        "schemas", FolderKeys.Paths, [], place => place.Schemas,
        "folders with settings schemas of GLib; `glib-compile-schemas` compiles them on the shelf");

    private static readonly Key<Placement, IReadOnlyList<InsidePath>> Mapped = Table.Optional(
        "mapped", FolderKeys.Paths, [], place => place.Mapped,
        "files and folders that its programs name by a path of the system, such as `usr/share/scrim` for `/usr/share/scrim`; a "
            + "mapped start lays them there");

    private static readonly Key<Placement, IReadOnlyList<AppId>> Borrows = Table.Optional(
        "borrows", new ParsedListFormat<AppId>(AppId.TryParse, AppId.Expected, id => id.Text, Text, most: 20), [],
        place => place.Borrows,
        "apps of `needs` whose `folders` its programs find too, such as the libraries that another app brings");

    private static readonly Key<Placement, StartCheck?> Check = Table.Optional(
        "check", One(CheckKeys.Table), place => place.Check,
        "a command that is started once after placing, confined as an installer is, to see that the app works; where it does not "
            + "end with 0, the app is put back. The plan shows it");

    private static class FolderKeys
    {
        public static readonly ValueFormat<IReadOnlyList<InsidePath>> Paths = new ParsedListFormat<InsidePath>(
            InsidePath.TryParse, InsidePath.Expected, path => path.Text, Text, most: 20);

        public static readonly KeyTable<Lists> Table = new(values => new Lists(
        [
            .. Keys!.Select(key => new OwnFolders(key.Kind, key.Key.In(values))).Where(folders => folders.Paths.Count > 0),
        ]));

        private static readonly IReadOnlyList<(OwnFolderKind Kind, Key<Lists, IReadOnlyList<InsidePath>> Key)> Keys =
        [
            .. OwnFolderRow.All.Select(row => (row.Kind, Table.Optional(
                row.Word, Paths, [], lists => lists.List.FirstOrDefault(folders => folders.Kind == row.Kind)?.Paths ?? [],
                $"folders with {row.Meaning}: `{row.Variable}`"))),
        ];

        /// <summary>The folders of each kind.</summary>
        internal sealed record Lists(IReadOnlyList<OwnFolders> List);
    }

    private static class CommandKeys
    {
        public static readonly KeyTable<PlacedCommand> Table =
            new(values => new PlacedCommand(Name!.In(values), Path!.In(values)));

        private static readonly Key<PlacedCommand, FileName> Name =
            Table.Required("name", CommandNames, command => command.Name, "what a user types");

        private static readonly Key<PlacedCommand, InsidePath> Path =
            Table.Required("path", InsidePaths, command => command.Path, "the executable in the shelf entry");
    }

    private static class FileKeys
    {
        public static readonly KeyTable<PlacedFile> Table = new(values => new PlacedFile(Name!.In(values), Path!.In(values)));

        private static readonly Key<PlacedFile, FileName> Name =
            Table.Required("name", FileNames, file => file.Name, "the name that it gets");

        private static readonly Key<PlacedFile, InsidePath> Path =
            Table.Required("path", InsidePaths, file => file.Path, "the file in the shelf entry");
    }

    private static class DesktopEntryKeys
    {
        public static readonly KeyTable<PlacedDesktopEntry> Table = new(values => new PlacedDesktopEntry
        {
            Name = Name!.In(values), Command = Command!.In(values), Arguments = Arguments!.In(values), Path = Path!.In(values),
            Icon = Icon!.In(values),
        });

        private static readonly Key<PlacedDesktopEntry, FileName> Name =
            Table.Required("name", FileNames, entry => entry.Name, "the file's name without `.desktop`");

        private static readonly Key<PlacedDesktopEntry, FileName> Command =
            Table.Required("command", FileNames, entry => entry.Command, "one of the app's commands");

        private static readonly Key<PlacedDesktopEntry, string> Arguments = Table.Optional(
            "arguments", OneLine, "", entry => entry.Arguments, "what follows it in Exec, such as `%F`");

        private static readonly Key<PlacedDesktopEntry, InsidePath?> Path = Table.Optional(
            "path", InsidePaths, entry => entry.Path, "an entry in the shelf entry to take over (see below)");

        private static readonly Key<PlacedDesktopEntry, FileName?> Icon = Table.Optional(
            "icon", FileNames, entry => entry.Icon, "the icon's name; otherwise the first placed one");
    }

    private static class IconKeys
    {
        public static readonly KeyTable<PlacedIcon> Table =
            new(values => new PlacedIcon(Name!.In(values), Path!.In(values), Size!.In(values)));

        private static readonly Key<PlacedIcon, FileName> Name =
            Table.Required("name", FileNames, icon => icon.Name, "the icon's name without its ending");

        private static readonly Key<PlacedIcon, InsidePath> Path =
            Table.Required("path", InsidePaths, icon => icon.Path, "the picture in the shelf entry");

        private static readonly Key<PlacedIcon, string> Size = Table.Required(
            "size", Texts, icon => icon.Size,
            "`scalable` or `symbolic` with a .svg file, a size such as `48x48` or `48x48@2` with a .png file");
    }

    private static class CompletionKeys
    {
        public static readonly KeyTable<PlacedCompletion> Table =
            new(values => new PlacedCompletion(Shell!.In(values), Command!.In(values), Path!.In(values)));

        private static readonly Key<PlacedCompletion, CompletionShell> Shell = Table.Required(
            "shell", new ChoiceFormat<CompletionShell>(ShellWords.Shells), completion => completion.Shell, "the shell");

        private static readonly Key<PlacedCompletion, FileName> Command =
            Table.Required("command", FileNames, completion => completion.Command, "one of the app's commands");

        private static readonly Key<PlacedCompletion, InsidePath> Path =
            Table.Required("path", InsidePaths, completion => completion.Path, "the file in the shelf entry");
    }

    private static class AutostartKeys
    {
        public static readonly KeyTable<PlacedAutostart> Table =
            new(values => new PlacedAutostart(Name!.In(values), Command!.In(values), Arguments!.In(values)));

        private static readonly Key<PlacedAutostart, FileName> Name =
            Table.Required("name", FileNames, entry => entry.Name, "the entry's file name without `.desktop`");

        private static readonly Key<PlacedAutostart, FileName> Command =
            Table.Required("command", FileNames, entry => entry.Command, "one of the app's commands");

        private static readonly Key<PlacedAutostart, string> Arguments =
            Table.Optional("arguments", OneLine, "", entry => entry.Arguments, "what follows it in Exec");
    }

    private static class CheckKeys
    {
        public static readonly KeyTable<StartCheck> Table = new(values =>
            new StartCheck(Command!.In(values), Arguments!.In(values), Output!.In(values), (int)Seconds!.In(values)));

        private const int MostSeconds = 300;

        private static readonly Key<StartCheck, FileName> Command =
            Table.Required("command", FileNames, check => check.Command, "one of the app's commands");

        private static readonly Key<StartCheck, IReadOnlyList<string>> Arguments = Table.Optional(
            "arguments", StringsThat(text => !text.Any(char.IsControl), "strings without control characters", Text), [],
            check => check.Arguments, "what it is started with");

        private static readonly Key<StartCheck, string> Output = Table.Optional(
            "output", Texts, "", check => check.Output,
            "what must be in a line that it writes; `{version}` is the version");

        private static readonly Key<StartCheck, long> Seconds = Table.Optional(
            "seconds", new NumberFormat(1, MostSeconds), StartCheck.UsualSeconds, check => check.Seconds,
            $"how long it may take, 1 to {MostSeconds}; default: {StartCheck.UsualSeconds}");
    }
}
