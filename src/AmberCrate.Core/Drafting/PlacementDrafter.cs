using AmberCrate.Core.Cards;
using AmberCrate.Core.Placements;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Drafting;

/// <summary>Works out what a package places: its commands, menu entries, icons, types of file, manual pages and fonts.</summary>
/// <param name="contents">The package.</param>
/// <param name="entries">Its desktop entries.</param>
/// <param name="questions">Takes what a user should look at.</param>
internal sealed class PlacementDrafter(
    PackageContents contents, IReadOnlyList<(string Path, ShippedEntry Entry)> entries, List<string> questions)
{
    private const int MostCommands = 40, MostPages = 20, MostIcons = 12;

    private static readonly string[] CommandFolders =
        ["bin", "usr/bin", "usr/games", "usr/local/bin", "sbin", "usr/sbin", ""];

    private static readonly string[] FontEndings = [".ttf", ".otf"];
    private static readonly string[] BesideFontFolders = ["/doc/", "/fontconfig/", "/metainfo/", "/appdata/", "/lintian/"];

    private static readonly string[] BesideFontEndings =
        [".woff", ".woff2", ".ttc", ".pfb", ".afm", ".bdf", ".pcf.gz", ".txt", ".md", ".html", ".pdf", ".conf", ".xml"];

    private readonly List<PlacedCommand> _commands = [];

    /// <summary>Works it out.</summary>
    public Placement Draft()
    {
        if (contents.Format == ArtifactFormat.AppImage) AddAppImage();
        else if (contents.Format == ArtifactFormat.Installer) questions.Add(
            "An installer is not unpacked: write the commands, menu entries and icons that it brings under [place] yourself.");
        else AddCommands();
        var menu = contents.Format == ArtifactFormat.AppImage ? AppImageEntries() : Entries();
        var icons = Icons(menu);
        var folders = new OwnFolderDrafter(contents);
        return new Placement
        {
            Commands = _commands, Icons = icons,
            DesktopEntries = [.. menu.Select(entry => icons.Exists(icon => icon.Name == entry.Icon) ? entry
                : entry with { Icon = null })],
            MimeTypes = Placed(file => file.Path.Contains("share/mime/packages/", StringComparison.Ordinal), ".xml", MostPages),
            ManualPages = Placed(
                file => file.Path.Contains("share/man/man", StringComparison.Ordinal)
                    && _commands.Exists(command => file.Name.StartsWith(command.Name.Text + ".", StringComparison.Ordinal)),
                "", MostPages).Where(page => ManualPageName.SectionOf(page.Name) is not null).ToList(),
            Fonts = HoldsFonts() ? Placed(IsFont, "", MostCommands) : [],
            Folders = _commands.Count > 0 && contents.Format != ArtifactFormat.AppImage ? folders.Draft() : [],
            Schemas = _commands.Count > 0 ? folders.FindSchemas() : [], Mapped = Mapped(folders),
        };
    }

    /// <summary>
    /// What must be laid over the system. A mapped start gives up the right to become root, which is what people use terminals
    /// for: these are asked about.
    /// </summary>
    private IReadOnlyList<InsidePath> Mapped(OwnFolderDrafter folders)
    {
        if (_commands.Count == 0 || contents.Format == ArtifactFormat.AppImage) return [];
        var mapped = folders.FindMapped();
        if (mapped.Count == 0 || !entries.Any(file => file.Entry.List("Categories").Contains("TerminalEmulator"))) return mapped;
        questions.Add($"Its programs name /{string.Join(", /", mapped)}, which will lie elsewhere: do they start? "
            + "\"mapped\" under [place] would lay it there, but nothing that it starts could use sudo.");
        return [];
    }

    /// <summary>
    /// Whether the package is there for its fonts: it has no program, and nothing else but what goes with fonts. The data of a
    /// game may hold a few fonts too.
    /// </summary>
    private bool HoldsFonts() => _commands.Count == 0 && contents.Files.Any(IsFont)
        && contents.Files.All(file => IsFont(file) || IsBesideFonts(file));

    private static bool IsFont(PackedFile file) => FontEndings.Any(
        ending => file.Name.EndsWith(ending, StringComparison.OrdinalIgnoreCase));

    private static bool IsBesideFonts(PackedFile file) => file.IsLink
        || BesideFontFolders.Any(folder => $"/{file.Path}".Contains(folder, StringComparison.Ordinal))
        || BesideFontEndings.Any(ending => file.Name.EndsWith(ending, StringComparison.OrdinalIgnoreCase))
        || !file.Name.Contains('.', StringComparison.Ordinal);

    private void AddAppImage()
    {
        var name = contents.FileName.Split(['-', '_', '.'], 2)[0].ToLowerInvariant();
        if (entries.Count > 0 && FileName.TryParse(entries[0].Entry.Name.Split('.')[^1].ToLowerInvariant(), out var told))
            name = told.Text;
        AddCommand(name, Artifact.LauncherName);
    }

    private void AddCommands()
    {
        // A program alone is often named with its version and platform, which nobody types.
        if (contents.Files is [{ IsProgram: true } only] && FolderOf(only.Path).Length == 0
            && Drafter.NameWithoutVersion(contents.FileName) is { } name) _ = AddCommand(name.ToLowerInvariant(), only.Path);
        foreach (var folder in CommandFolders)
        {
            // The top folder is where small programs lie that have no others.
            if (folder.Length == 0 && _commands.Count > 0) continue;
            foreach (var file in contents.Files.Where(file => file.IsProgram && FolderOf(file.Path) == folder
                && !file.Name.Contains(".so", StringComparison.Ordinal)).Take(MostCommands)) AddCommand(file.Name, file.Path);
        }

        foreach (var (_, entry) in entries) _ = CommandFor(entry);
        if (_commands.Count == 0) questions.Add("No program was found in it: which file is the command, if there is one?");
    }

    private bool AddCommand(string name, string path)
    {
        if (!CommandNameRule.TryParse(name, out var command) || !InsidePath.TryParse(path, out var inside)
            || _commands.Exists(known => known.Name == command)) return false;
        _commands.Add(new PlacedCommand(command!, inside!));
        return true;
    }

    /// <summary>The command that an entry starts, which becomes one where it is a program elsewhere in the package.</summary>
    private PlacedCommand? CommandFor(ShippedEntry entry)
    {
        if (entry.Program is not { } program) return null;
        var name = program[(program.LastIndexOf('/') + 1)..];
        if (_commands.Find(command => command.Name.Text == name) is { } known) return known;
        var file = contents.Files.Where(file => file.IsProgram && file.Name == name)
            .OrderByDescending(file => program.EndsWith('/' + file.Path, StringComparison.Ordinal)).FirstOrDefault();
        return file is not null && AddCommand(name, file.Path) ? _commands[^1] : null;
    }

    private List<PlacedDesktopEntry> Entries()
    {
        var placed = new List<PlacedDesktopEntry>();
        foreach (var (path, entry) in entries)
        {
            if (CommandFor(entry) is not { } command)
            {
                var program = entry.Program ?? "nothing";
                questions.Add($"The menu entry {path} starts {program}, which is not in the package: it is left out.");
                continue;
            }

            if (!FileName.TryParse(entry.Name, out var name) || !InsidePath.TryParse(path, out var inside)
                || placed.Exists(known => known.Name == name)) continue;
            placed.Add(new PlacedDesktopEntry
            {
                Name = name!, Command = command.Name, Path = inside,
                Icon = FileName.TryParse(entry.Value("Icon") ?? "", out var icon) ? icon : null,
            });
        }

        if (entries.Count == 0 && _commands.Count > 0) questions.Add("It has no menu entry: is it a program for the terminal?");
        return placed;
    }

    /// <summary>An AppImage is kept whole: its entry cannot be taken out of it, and is written from the card.</summary>
    private List<PlacedDesktopEntry> AppImageEntries() => _commands.Count == 0
        ? []
        : [new PlacedDesktopEntry { Name = _commands[0].Name, Command = _commands[0].Name, Arguments = "%F" }];

    private List<PlacedIcon> Icons(List<PlacedDesktopEntry> menu)
    {
        var wanted = menu.Select(entry => entry.Icon?.Text).OfType<string>().ToHashSet(StringComparer.Ordinal);
        var icons = new List<PlacedIcon>();
        foreach (var file in contents.Files.Where(file => !file.IsLink
            && (file.Name.EndsWith(".svg", StringComparison.Ordinal) || file.PictureSide is >= 8 and <= 1024)))
        {
            var stem = file.Name[..file.Name.LastIndexOf('.')];
            if (!wanted.Contains(stem) || !FileName.TryParse(stem, out var name) || !InsidePath.TryParse(file.Path, out var path))
                continue;
            var size = file.PictureSide > 0 ? $"{file.PictureSide}x{file.PictureSide}"
                : file.Path.Contains("symbolic", StringComparison.Ordinal) ? "symbolic" : "scalable";
            if (icons.Count < MostIcons && !icons.Exists(icon => icon.Name == name && icon.Size == size))
                icons.Add(new PlacedIcon(name!, path!, size));
        }

        foreach (var missing in wanted.Where(name => icons.TrueForAll(icon => icon.Name.Text != name)))
            questions.Add(
                $"The icon \"{missing}\" of a menu entry cannot be placed from the package: the system's is used.");
        return icons;
    }

    private List<PlacedFile> Placed(Func<PackedFile, bool> isWanted, string ending, int most) =>
    [
        .. contents.Files.Where(file => !file.IsLink && isWanted(file)).Take(most)
            .Select(file => FileName.TryParse(file.Name.EndsWith(ending, StringComparison.Ordinal)
                    ? file.Name[..^ending.Length] : file.Name, out var name) && InsidePath.TryParse(file.Path, out var path)
                ? new PlacedFile(name!, path!)
                : null)
            .OfType<PlacedFile>().DistinctBy(file => file.Name),
    ];

    private static string FolderOf(string path) =>
        path.LastIndexOf('/') is >= 0 and var at ? path[..at] : "";
}
