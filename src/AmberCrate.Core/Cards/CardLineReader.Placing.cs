using AmberCrate.Core.Values;

namespace AmberCrate.Core.Cards;

/// <content>What is placed, and what an installer is given.</content>
internal ref partial struct CardLineReader
{
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
            else if (Is("arguments"u8))
                arguments = Texts(text => !text.Any(char.IsControl), "strings without control characters", CardLimits.Text);
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

        return new PlacedCompletion(
            shell ?? throw Missing("shell"), command ?? throw Missing("command"), path ?? throw Missing("path"));
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

        return new PlacedDesktopEntry
        {
            Name = name ?? throw Missing("name"), Command = command ?? throw Missing("command"), Arguments = arguments,
            Path = path, Icon = icon,
        };
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

    private InstallerRules ReadInstaller()
    {
        var rules = new InstallerRules();
        BeginObject();
        while (NextKey())
        {
            if (Is("arguments"u8)) rules = rules with
            {
                Arguments = Texts(
                text => !text.Contains('\0', StringComparison.Ordinal), "strings without a zero character", CardLimits.Text)
            };
            else if (Is("fine"u8)) rules = rules with { Fine = Numbers(0, CardLimits.ExitCode) };
            else if (Is("restart"u8)) rules = rules with { Restart = Numbers(0, CardLimits.ExitCode) };
            else if (Is("seconds"u8)) rules = rules with { Seconds = (int)Number(1, CardLimits.InstallerSeconds) };
            else throw Unknown();
        }

        return rules;
    }
}
