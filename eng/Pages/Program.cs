using System.Globalization;
using AmberCrate.Cli.Shell;
using AmberCrate.Core.CardFiles;
using AmberCrate.Engine.Exporting;
using AmberCrate.Engine.Inspecting;
using AmberCrate.Pages;

// Writes what follows from the code. AmberCrate.Pages tables FOLDER fills in the tables of keys in docs/formats/app-card.md
// and of commands, options, exit codes and findings in docs/commands.md of that working tree (eng/pages); messages FOLDER FILE
// lists what the program can say (eng/pages); manual FOLDER OUT [DATE] writes the manual pages (eng/manual); package FOLDER OUT
// writes the completions and the configuration file of a package (eng/package); parts FOLDER FILE SECONDS RUNTIME PACKAGE...
// lists what an executable for that runtime is made of (eng/publish).
var repository = args[1];
var cardPage = Path.Combine(repository, "docs", "formats", "app-card.md");
if (args[0] == "tables")
    return FillTables(cardPage, "keys: ", CardDocumentation.Tables)
        + FillTables(Path.Combine(repository, "docs", "commands.md"), "", [
            ("findings", FindingTable.Markdown),
            .. CommandTables.All(AcrateCommand.Create(default), AcrateCommand.Groups(default)),
        ]);
if (args[0] == "messages")
{
    File.WriteAllText(args[2], MessageTable.Of(repository));
    return 0;
}

if (args[0] == "parts")
{
    var made = DateTimeOffset.FromUnixTimeSeconds(long.Parse(args[3], CultureInfo.InvariantCulture));
    File.WriteAllText(args[2], new BillOfMaterials(repository, args[4], args[5..]).Write(ComponentVersions.Program, made));
    return 0;
}

var target = args[2];
Directory.CreateDirectory(target);
var root = AcrateCommand.Create(default);
if (args[0] == "package")
{
    Write("acrate.bash", CompletionScript.Bash(root));
    Write("_acrate", CompletionScript.Zsh(root));
    Write("acrate.fish", CompletionScript.Fish(root));
    Write("acrate.toml", SettingsFile.Text());
    return 0;
}

var date = args.Length > 3 ? DateOnly.Parse(args[3], CultureInfo.InvariantCulture) : DateOnly.FromDateTime(DateTime.UtcNow);
var groups = AcrateCommand.Groups(default);
Write("acrate.1", ManualPage.OfProgram(root, groups, date));
foreach (var command in root.Subcommands.SelectMany(HelpText.Leaves))
    Write($"{ManualPage.NameOf(command)}.1", ManualPage.OfCommand(command, date));
Write("acrate-appcard.5", ManualPage.OfFormat("acrate-appcard", "an app card", File.ReadAllText(cardPage), date));
Write("acrate-bundle.5", ManualPage.OfFormat(
    "acrate-bundle", "a bundle of apps",
    File.ReadAllText(Path.Combine(repository, "docs", "formats", "bundle.md")), date));
return 0;

void Write(string name, string text) => File.WriteAllText(Path.Combine(target, name), text);

static int FillTables(string page, string kind, IEnumerable<(string Name, string Markdown)> tables)
{
    // Each table stands between the line that names it and the next "<!-- end -->".
    var text = File.ReadAllText(page);
    foreach (var (name, markdown) in tables)
    {
        var begin = $"<!-- {kind}{name} -->\n";
        var from = text.IndexOf(begin, StringComparison.Ordinal);
        if (from < 0)
        {
            Console.Error.WriteLine($"{page}: the line \"{begin.TrimEnd()}\" is missing. Put it, and \"<!-- end -->\" behind it, "
                + "where the table belongs.");
            return 1;
        }

        from += begin.Length;
        var to = text.IndexOf("<!-- end -->", from, StringComparison.Ordinal);
        text = text[..from] + markdown + "\n" + text[to..];
    }

    File.WriteAllText(page, text);
    return 0;
}
