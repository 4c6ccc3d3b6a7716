using System.CommandLine;
using System.CommandLine.Help;
using AmberCrate.Cli.Bundling;
using AmberCrate.Cli.Cataloguing;
using AmberCrate.Cli.Checking;
using AmberCrate.Cli.CommandLine;
using AmberCrate.Cli.Comparing;
using AmberCrate.Cli.Configuring;
using AmberCrate.Cli.Drafting;
using AmberCrate.Cli.Due;
using AmberCrate.Cli.Equipping;
using AmberCrate.Cli.Exporting;
using AmberCrate.Cli.Installing;
using AmberCrate.Cli.Kits;
using AmberCrate.Cli.Listing;
using AmberCrate.Cli.PastRuns;
using AmberCrate.Cli.Pinning;
using AmberCrate.Cli.Reclaiming;
using AmberCrate.Cli.Removing;
using AmberCrate.Cli.Scheduling;
using AmberCrate.Cli.Searching;
using AmberCrate.Cli.Terminal;
using AmberCrate.Cli.Upgrading;

namespace AmberCrate.Cli.Shell;

/// <summary>The root of the command line.</summary>
internal static class AcrateCommand
{
    /// <summary>The options of every command.</summary>
    public static IReadOnlyList<Option> Everywhere { get; } =
    [
        CommonOptions.AllUsers, CommonOptions.Root, CommonOptions.Offline, CommonOptions.Json, CommonOptions.NoColour,
        CommonOptions.Verbose, CommonOptions.Help,
    ];

    /// <summary>The commands by task, as help groups them.</summary>
    /// <param name="now">Is cancelled when the user stops a run for the second time.</param>
    public static IReadOnlyList<(string Task, IReadOnlyList<Command> Commands)> Groups(CancellationToken now) =>
    [
        .. Entries(now).Select(
            group => (group.Task, (IReadOnlyList<Command>)[.. group.Commands.Select(entry => entry.Make())])),
    ];

    /// <summary>Builds the whole command line.</summary>
    /// <param name="now">Is cancelled when the user stops a run for the second time.</param>
    public static ProgramCommand Create(CancellationToken now) => Create(Groups(now));

    /// <summary>
    /// Builds the command line for these arguments. Where they begin with the name of a command, it has no other: all of them
    /// take a millisecond to be made.
    /// </summary>
    /// <param name="arguments">The arguments.</param>
    /// <param name="now">Is cancelled when the user stops a run for the second time.</param>
    public static ProgramCommand For(IReadOnlyList<string> arguments, CancellationToken now)
    {
        foreach (var (task, entries) in Entries(now))
        {
            foreach (var (name, make) in entries)
            {
                if (arguments.Count > 0 && arguments[0] == name) return Create([(task, [make()])]);
            }
        }

        return Create(now);
    }

    private static ProgramCommand Create(IReadOnlyList<(string Task, IReadOnlyList<Command> Commands)> groups)
    {
        var root = new ProgramCommand(new DocumentWriter(DocumentContext.Default));
        foreach (var command in groups.SelectMany(group => group.Commands)) root.Subcommands.Add(command);
        root.Subcommands.Add(CompletionsCommand.CreateNames());
        root.Directives.Clear();
        root.Options.Remove(root.Options.OfType<VersionOption>().Single());
        root.Options.Remove(root.Options.OfType<HelpOption>().Single());
        foreach (var option in Everywhere) root.Options.Add(option);
        root.Options.Add(new DeclaredOption<bool>(OptionGroup.Output, "--version")
        {
            Description = "Say which version this is, and with --verbose what is inside", Action = new VersionAction(),
        });
        CommonOptions.Help.Action = new CommandHelpAction(groups);
        root.SetAction(parsed => CommandHelpAction.Show(parsed, groups));
        return root;
    }

    private static (string Task, (string Name, Func<Command> Make)[] Commands)[] Entries(CancellationToken now) =>
    [
        ("Find", [("search", SearchCommand.Create), ("about", AboutCommand.Create)]),
        ("Install and remove", [("install", () => InstallCommand.Create(now)), ("uninstall", () => UninstallCommand.Create(now)),
            ("prefetch", () => PrefetchCommand.Create(now))]),
        ("Keep current", [("list", ListCommand.Create), ("due", DueCommand.Create), ("upgrade", () => UpgradeCommand.Create(now)),
            ("pin", PinCommand.Create), ("adopt", () => AdoptCommand.Create(now))]),
        ("Copy a machine", [("export", ExportCommand.Create), ("compare", CompareCommand.Create),
            ("equip", () => EquipCommand.Create(now)), ("bundle", BundleCommand.Create), ("kit", KitCommand.Create)]),
        ("Past runs", [("runs", RunsCommand.Create), ("undo", () => UndoCommand.Create(now)),
            ("retry", () => RetryCommand.Create(now))]),
        ("Upkeep", [("check", () => CheckCommand.Create(now)), ("reclaim", ReclaimCommand.Create),
            ("schedule", () => ScheduleCommand.Create(now)), ("settings", SettingsCommand.Create),
            ("completions", () => CompletionsCommand.Create(() => Create(now)))]),
        ("Catalogues", [("catalogue", CatalogueCommand.Create)]),
        ("For maintainers", [("card", CardCommand.Create)]),
    ];
}
