using System.CommandLine;
using System.CommandLine.Parsing;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;

namespace AmberCrate.Cli.Shell;

/// <summary>Names the faults of a command line in our own words.</summary>
internal static class CommandLineCheck
{
    /// <summary>The fault; null where the command line can be read.</summary>
    public static Problem? Misuse(ParseResult parsed)
    {
        var isUnknown = parsed.CommandResult.Command.Subcommands.Count > 0 && parsed.UnmatchedTokens.Count > 0;
        if (CommandHelpAction.IsAsked(parsed) && !isUnknown) return null;
        var faults = UnknownOptions(parsed).ToList();
        if (faults.Count == 0) faults = Misplaced(parsed) is { } fault ? [fault] : [.. OptionFaults(parsed).Distinct()];
        if (faults.Count == 0) faults = [.. parsed.Errors.Select(error => error.Message.TrimEnd('.'))];
        if (faults.Count == 0) return null;
        var command = parsed.CommandResult.Command;
        return new Problem(
            ProblemCode.BadCommandLine, faults[0],
            remedy: NextCommand.HelpOf(command is RootCommand ? "" : HelpText.PathOf(command)))
        {
            Details = [.. faults[1..]],
        };
    }

    /// <summary>
    /// Options that the command does not have: the parser takes them for arguments, and no app or file is meant.
    /// </summary>
    private static IEnumerable<string> UnknownOptions(ParseResult parsed)
    {
        var known = HelpText.OptionsOf(parsed.CommandResult.Command)
            .SelectMany(option => option.Aliases.Append(option.Name)).Where(
                name => name.StartsWith("--", StringComparison.Ordinal));
        foreach (var token in parsed.Tokens.TakeWhile(token => token.Type != TokenType.DoubleDash))
        {
            if (token.Type != TokenType.Argument || token.Value.Length < 2 || token.Value[0] != '-') continue;
            var name = token.Value.Split('=')[0];
            yield return $"there is no option {name}{Meant(WordDistance.Nearest(name, known))}";
        }
    }

    /// <summary>
    /// An unknown command, or an argument that is missing or too much; null where all are in their places.
    /// </summary>
    private static string? Misplaced(ParseResult parsed)
    {
        var command = parsed.CommandResult.Command;
        var extra = parsed.Tokens.FirstOrDefault(token => token.Type == TokenType.Directive)?.Value
            ?? (parsed.UnmatchedTokens.Count > 0 ? parsed.UnmatchedTokens[0] : null);
        var subcommands = command.Subcommands.Where(sub => !sub.Hidden).ToList();
        if (subcommands.Count > 0)
        {
            var path = command is RootCommand ? "acrate" : $"acrate {HelpText.PathOf(command)}";
            if (extra is not null)
                return $"there is no command {path} {extra}{Meant(Nearest(extra, command, path))}";
            return command is RootCommand
                ? null
                : $"{path} needs a command: {string.Join(", ", subcommands.Select(sub => sub.Name))}";
        }

        var form = $"expected acrate {HelpText.Form(command)}";
        foreach (var argument in command.Arguments)
        {
            if ((parsed.GetResult(argument)?.Tokens.Count ?? 0) < argument.Arity.MinimumNumberOfValues)
                return $"{argument.Name} is missing; {form}";
        }

        return extra is null ? null : $"\"{extra}\" is one argument too many; {form}";
    }

    /// <summary>The command that was meant: one of the same level, or one that is found a level deeper.</summary>
    private static string? Nearest(string word, Command command, string path)
    {
        if (WordDistance.Nearest(word, command.Subcommands.Where(sub => !sub.Hidden).Select(sub => sub.Name)) is { } near)
            return $"{path} {near}";
        var deeper = command.Subcommands.SelectMany(HelpText.Leaves).FirstOrDefault(leaf => leaf.Name == word);
        return deeper is null ? null : $"acrate {HelpText.PathOf(deeper)}";
    }

    private static IEnumerable<string> OptionFaults(ParseResult parsed)
    {
        foreach (var error in parsed.Errors)
        {
            if (error.SymbolResult is not OptionResult { Option: var option } result) continue;
            var value = result.Tokens.Count > 0 ? result.Tokens[^1].Value : null;
            yield return value is null ? $"{option.Name} needs a value: {option.Name} {option.HelpName}"
                : result.Tokens.Count > option.Arity.MaximumNumberOfValues ? $"{option.Name} is given more than once"
                : option.ValueType == typeof(bool) ? $"{option.Name} takes no value, and \"{value}\" was given"
                : option.ValueType == typeof(int) ? $"{option.Name} takes a whole number, not \"{value}\""
                : $"{option.Name} does not take \"{value}\"";
        }
    }

    private static string Meant(string? near) => near is null ? "" : $"; did you mean {near}?";
}
