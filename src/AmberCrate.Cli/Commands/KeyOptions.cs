using System.CommandLine;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Trust;

namespace AmberCrate.Cli.Commands;

/// <summary>The options by which a maintainer says where the keys are.</summary>
internal sealed class KeyOptions
{
    private const string Variable = "ACRATE_KEY_PASSPHRASE";

    private readonly Option<string> _folder = new DeclaredOption<string>(OptionGroup.Files, "--keys")
    {
        Description = "Sign with the keys in FOLDER", HelpName = "FOLDER", Completion = Completion.Folder,
    };

    private readonly Option<string> _program = new DeclaredOption<string>(OptionGroup.Files, "--sign-with")
    {
        Description = "Ask PROGRAM to sign where FOLDER lacks a key", HelpName = "PROGRAM", Completion = Completion.File,
    };

    private readonly Option<string> _passphrase = PassphraseOption();

    /// <summary>Adds them to a command.</summary>
    public KeyOptions(Command command)
    {
        command.Options.Add(_folder);
        command.Options.Add(_program);
        command.Options.Add(_passphrase);
    }

    /// <summary>The option that names a file with the passphrase of keys.</summary>
    public static Option<string> PassphraseOption() => new DeclaredOption<string>(OptionGroup.Files, "--passphrase-file")
    {
        Description = "The passphrase of the keys is the first line of FILE", HelpName = "FILE", Completion = Completion.File,
    };

    /// <summary>The keys; null where none were named.</summary>
    public KeyRing? Ring(ParseResult parsed, Call call)
    {
        var (folder, program) = (parsed.GetValue(_folder), parsed.GetValue(_program));
        if (folder is null && program is null) return null;
        return new KeyRing(
            call.Host.FullPath(folder ?? "."), Passphrase(parsed, _passphrase, call),
            program is null ? null : call.Host.FullPath(program));
    }

    /// <summary>The passphrase of keys, from a file or else from the environment; null for none.</summary>
    /// <exception cref="ProblemException">There is no such file.</exception>
    public static string? Passphrase(ParseResult parsed, Option<string> option, Call call)
    {
        if (parsed.GetValue(option) is not { } file) return call.Host.Variable(Variable) is { Length: > 0 } said ? said : null;
        var path = call.Host.FullPath(file);
        return File.Exists(path) ? File.ReadLines(path).FirstOrDefault("")
            : throw new Problem(ProblemCode.NothingMatched, $"there is no file {file}").ToException();
    }
}
