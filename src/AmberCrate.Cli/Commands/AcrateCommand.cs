using System.CommandLine;
using System.CommandLine.Help;
using System.CommandLine.Parsing;
using AmberCrate.Core.Problems;

namespace AmberCrate.Cli.Commands;

/// <summary>The root of the command line.</summary>
internal static class AcrateCommand
{
    /// <summary>The commands by task, as help groups them.</summary>
    /// <param name="now">Is cancelled when the person stops a run for the second time.</param>
    public static IReadOnlyList<(string Task, IReadOnlyList<Command> Commands)> Groups(CancellationToken now) =>
    [
        ("Find", [SearchCommand.Create(), AboutCommand.Create()]),
        ("Put on", [InstallCommand.Create(now), UninstallCommand.Create(now), PrefetchCommand.Create(now)]),
        ("Keep current", [ListCommand.Create(), DueCommand.Create(), UpgradeCommand.Create(now)]),
        ("Carry over", [ExportCommand.Create(), EquipCommand.Create(now)]),
        ("Records", [RetryCommand.Create(now)]),
        ("Upkeep", [SettingsCommand.Create()]),
        ("Catalogues", [CatalogueCommand.Create()]),
    ];

    /// <summary>Builds the whole command line.</summary>
    /// <param name="now">Is cancelled when the person stops a run for the second time.</param>
    public static RootCommand Create(CancellationToken now)
    {
        var root = new RootCommand(
            "Puts desktop applications on workstations from catalogues, keeps them current, and carries them over.");
        var groups = Groups(now);
        foreach (var command in groups.SelectMany(group => group.Commands)) root.Subcommands.Add(command);
        root.Options.Add(CommonOptions.Json);
        root.Options.Add(CommonOptions.Root);
        root.Options.Add(CommonOptions.AllUsers);
        root.Options.Add(CommonOptions.Offline);
        root.Options.Add(CommonOptions.NoColour);
        root.Options.Add(CommonOptions.Verbose);
        root.Options.Remove(root.Options.OfType<VersionOption>().Single());
        root.Options.Add(new Option<bool>("--version")
        {
            Description = "Say which version this is, and with --verbose what is inside", Action = new VersionAction(),
        });
        foreach (var option in root.Options)
        {
            if (option is HelpOption help) help.Action = new GroupedHelpAction((HelpAction)help.Action!, groups);
        }

        root.SetAction(_ => GroupedHelpAction.Write(Console.Out, groups));
        return root;
    }

    /// <summary>What is wrong with a command line; null where it can be read.</summary>
    public static Problem? Misuse(ParseResult parsed)
    {
        var faults = new List<string>();
        foreach (var error in parsed.Errors) faults.Add(error.Message.TrimEnd('.'));
        foreach (var token in parsed.Tokens)
        {
            // The parser takes an option that it does not know for one more argument; no app or file is meant by one.
            if (token.Type == TokenType.DoubleDash) break;
            if (token.Type == TokenType.Argument && token.Value.Length > 1 && token.Value[0] == '-')
                faults.Add($"there is no option {token.Value}");
        }

        if (faults.Count == 0) return null;
        var verb = string.Join(' ', Path(parsed.CommandResult.Command).Reverse());
        return new Problem(
            ProblemCode.BadCommandLine, faults[0], remedy: NextCommand.HelpOf(verb))
        { Details = [.. faults[1..]] };
    }

    private static IEnumerable<string> Path(Symbol symbol)
    {
        for (var here = symbol; here is not null and not RootCommand; here = here.Parents.FirstOrDefault())
            yield return here.Name;
    }
}
