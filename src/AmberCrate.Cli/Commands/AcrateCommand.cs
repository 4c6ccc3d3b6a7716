using System.CommandLine;
using System.CommandLine.Help;

namespace AmberCrate.Cli.Commands;

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
    /// <param name="now">Is cancelled when the person stops a run for the second time.</param>
    public static IReadOnlyList<(string Task, IReadOnlyList<Command> Commands)> Groups(CancellationToken now) =>
    [
        ("Find", [SearchCommand.Create(), AboutCommand.Create()]),
        ("Install and remove", [InstallCommand.Create(now), UninstallCommand.Create(now), PrefetchCommand.Create(now)]),
        ("Keep current", [ListCommand.Create(), DueCommand.Create(), UpgradeCommand.Create(now), PinCommand.Create(),
            AdoptCommand.Create(now)]),
        ("Copy a machine", [ExportCommand.Create(), CompareCommand.Create(), EquipCommand.Create(now),
            BundleCommand.Create(), KitCommand.Create()]),
        ("Past runs", [RunsCommand.Create(), UndoCommand.Create(now), RetryCommand.Create(now)]),
        ("Upkeep", [CheckCommand.Create(now), ReclaimCommand.Create(), ScheduleCommand.Create(now), SettingsCommand.Create(),
            CompletionsCommand.Create(() => Create(now))]),
        ("Catalogues", [CatalogueCommand.Create()]),
        ("For maintainers", [CardCommand.Create()]),
    ];

    /// <summary>Builds the whole command line.</summary>
    /// <param name="now">Is cancelled when the person stops a run for the second time.</param>
    public static RootCommand Create(CancellationToken now)
    {
        var root = new RootCommand();
        var groups = Groups(now);
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
}
