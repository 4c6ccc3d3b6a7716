using System.CommandLine;
using AmberCrate.Cli.Tables;
using AmberCrate.Cli.Terminal;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Trust;

namespace AmberCrate.Cli.CommandLine;

/// <summary>The options that say where a maintainer's keys are.</summary>
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
    private string? _asked;

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
            call.Host.FullPath(folder ?? "."), PassphraseOf(parsed, call),
            program is null ? null : call.Host.FullPath(program));
    }

    /// <summary>The keys.</summary>
    /// <exception cref="ProblemException">None were named.</exception>
    public KeyRing Require(ParseResult parsed, Call call) => Ring(parsed, call) ?? throw new Problem(
        ProblemCode.BadCommandLine, "--keys is missing", remedy: "name the folder of the keys").ToException();

    /// <summary>The passphrase of the keys that were named; null for none.</summary>
    public string? PassphraseOf(ParseResult parsed, Call call) =>
        _asked ??= Passphrase(parsed, _passphrase, call, call.Host.FullPath(parsed.GetValue(_folder) ?? "."));

    /// <summary>
    /// The passphrase of keys, from a file or else from the environment, or from the user where a key has one; null for none.
    /// </summary>
    /// <exception cref="ProblemException">There is no such file.</exception>
    public static string? Passphrase(ParseResult parsed, Option<string> option, Call call, string folder)
    {
        if (parsed.GetValue(option) is { } file) return KeyFile.ReadPassphrase(call.Host.FullPath(file));

        if (call.Host.Variable(Variable) is { Length: > 0 } said) return said;
        var ring = new KeyRing(folder, null);
        return CanAsk(call) && KeyRing.Names.Any(key => KeyFile.HasPassphrase(ring.PathOf(key)))
            ? SecretPrompt.Ask(call.Output, $"Passphrase of the keys in {Printable.Line(folder)}")
            : null;
    }

    /// <summary>A new passphrase, typed twice.</summary>
    /// <exception cref="ProblemException">There is no terminal to ask on, nothing was typed, or not the same twice.</exception>
    public static string NewPassphrase(Call call)
    {
        if (!CanAsk(call))
            throw new Problem(
                ProblemCode.BadCommandLine, "there is no terminal to ask for a passphrase on",
                remedy: $"use --passphrase-file FILE, or {Variable}").ToException();
        var typed = SecretPrompt.Ask(call.Output, "Passphrase for the new keys");
        return typed.Length > 0 && SecretPrompt.Ask(call.Output, "The same again") == typed
            ? typed
            : throw new Problem(
                ProblemCode.BadCommandLine, typed.Length == 0 ? "the passphrase is empty" : "the second one is another",
                "no keys have been made").ToException();
    }

    private static bool CanAsk(Call call) => call.Host.HasTerminal && !call.Output.IsJson;
}
