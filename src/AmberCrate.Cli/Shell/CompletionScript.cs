using System.CommandLine;
using System.Text;
using AmberCrate.Cli.CommandLine;

namespace AmberCrate.Cli.Shell;

/// <summary>Writes completion scripts from the declarations of the commands.</summary>
internal static class CompletionScript
{
    /// <summary>A script asks for ids of offered apps with this word.</summary>
    public const string Offered = "apps";

    /// <summary>A script asks for ids of installed apps with this word.</summary>
    public const string Installed = "installed";

    /// <summary>A script asks for names of catalogues with this word.</summary>
    public const string Catalogues = "catalogues";

    /// <summary>The script for bash.</summary>
    public static string Bash(RootCommand root)
    {
        var script = new StringBuilder();
        script.Append("""
            # Completions of acrate for bash. Made by: acrate completions bash
            _acrate_names() { acrate completion-names "$1" "$2" 2>/dev/null; }
            _acrate() {
                local word=${COMP_WORDS[COMP_CWORD]} before=${COMP_WORDS[COMP_CWORD-1]} path= at=1 words= takes= option=
                COMPREPLY=()
                while [ $at -lt $COMP_CWORD ]; do
                    case "${COMP_WORDS[at]}" in
                        -*) ;;
                        *)
                            case "$path ${COMP_WORDS[at]}" in

            """);
        foreach (var command in All(root))
            Add(script, $"                    \" {HelpText.PathOf(command)}\") path=\" {HelpText.PathOf(command)}\" ;;\n");
        script.Append("""
                            esac ;;
                    esac
                    at=$((at + 1))
                done
                case "$before" in

            """);
        foreach (var (names, takes) in ValuedOptions(root))
            Add(script, $"        {string.Join('|', names)}) option={Quoted(takes)} ;;\n");
        script.Append("        esac\n    case \"$path\" in\n");
        foreach (var command in All(root).Prepend(root))
        {
            var path = command is RootCommand ? "" : " " + HelpText.PathOf(command);
            Add(script, $"        \"{path}\") words={Quoted(WordsOf(command))}; takes={Quoted(TakenBy(command))} ;;\n");
        }

        script.Append("""
                esac
                [ -z "$option" ] || { words=; takes=$option; }
                case "$word" in
                    -*) takes= ;;
                    *) [ -z "$takes" ] || words= ;;
                esac
                case "$takes" in
                    files) compopt -o filenames; mapfile -t COMPREPLY < <(compgen -f -- "$word"); return ;;
                    folders) compopt -o filenames; mapfile -t COMPREPLY < <(compgen -d -- "$word"); return ;;
                    apps|installed|catalogues) words="$words $(_acrate_names "$takes" "$word")" ;;
                    words:*) words=${takes#words:} ;;
                    none) words= ;;
                esac
                mapfile -t COMPREPLY < <(compgen -W "$words" -- "$word")
            }
            complete -F _acrate acrate

            """);
        return script.ToString();
    }

    /// <summary>The script for zsh.</summary>
    public static string Zsh(RootCommand root)
    {
        var script = new StringBuilder();
        script.Append("""
            #compdef acrate
            # Completions of acrate for zsh. Made by: acrate completions zsh
            _acrate() {
                local line= at=2 takes= option= word=${words[CURRENT]} before=${words[CURRENT-1]}
                local -a known
                while (( at < CURRENT )); do
                    case "${words[at]}" in
                        -*) ;;
                        *)
                            case "$line ${words[at]}" in

            """);
        foreach (var command in All(root))
            Add(script, $"                    \" {HelpText.PathOf(command)}\") line=\" {HelpText.PathOf(command)}\" ;;\n");
        script.Append("""
                            esac ;;
                    esac
                    (( at++ ))
                done
                case "$before" in

            """);
        foreach (var (names, takes) in ValuedOptions(root))
            Add(script, $"        {string.Join('|', names)}) option={Quoted(takes)} ;;\n");
        script.Append("        esac\n    case \"$line\" in\n");
        foreach (var command in All(root).Prepend(root))
        {
            var path = command is RootCommand ? "" : " " + HelpText.PathOf(command);
            Add(script, $"        \"{path}\") known=(\n");
            foreach (var sub in command.Subcommands.Where(sub => !sub.Hidden))
                Add(script, $"            {Described(sub.Name, sub.Description)}\n");
            foreach (var option in HelpText.OptionsOf(command))
                Add(script, $"            {Described(option.Name, option.Description)}\n");
            Add(script, $"            ); takes={Quoted(TakenBy(command))} ;;\n");
        }

        script.Append("""
                esac
                [[ -z $option ]] || { known=(); takes=$option; }
                if [[ $word == -* ]]; then takes=; elif [[ -n $takes ]]; then known=(); fi
                case "$takes" in
                    files) _files ;;
                    folders) _files -/ ;;
                    apps|installed|catalogues) compadd -- ${(f)"$(acrate completion-names $takes "$word" 2>/dev/null)"} ;;
                    words:*) compadd -- ${=takes#words:} ;;
                esac
                (( ${#known} )) && _describe -t commands acrate known
            }
            if [[ ${funcstack[1]} == _acrate ]]; then _acrate "$@"; else compdef _acrate acrate; fi

            """);
        return script.ToString();
    }

    /// <summary>The script for fish.</summary>
    public static string Fish(RootCommand root)
    {
        var script = new StringBuilder();
        script.Append("""
            # Completions of acrate for fish. Made by: acrate completions fish
            function __acrate_path
                set -l path
                for word in (commandline -opc)[2..]
                    string match -q -- '-*' $word; and continue
                    switch (string join ' ' $path $word)

            """);
        Add(script, $"            case {string.Join(' ', All(root).Select(command => Quoted(HelpText.PathOf(command))))}\n");
        script.Append("""
                            set -a path $word
                    end
                end
                string join ' ' $path
            end
            function __acrate_at
                set -l path (__acrate_path)
                test "$path" = "$argv[1]"
            end
            function __acrate_names
                acrate completion-names $argv[1] (commandline -ct) 2>/dev/null
            end
            complete -c acrate -f

            """);
        foreach (var command in All(root).Prepend(root))
        {
            var path = command is RootCommand ? "" : HelpText.PathOf(command);
            var here = $"complete -c acrate -n \"__acrate_at '{path}'\"";
            foreach (var sub in command.Subcommands.Where(sub => !sub.Hidden))
                Add(script, $"{here} -a {Quoted(sub.Name)} -d {Quoted(sub.Description ?? "")}\n");
            if (command.Subcommands.Count == 0 && TakenBy(command) is { Length: > 0 } takes)
                Add(script, $"{here}{FishValue(takes)}\n");
            foreach (var option in HelpText.OptionsOf(command))
            {
                var brief = option.Aliases.Where(alias => alias.Length == 2).Select(alias => $" -s {alias[1]}");
                var value = TakesValue(option)
                    ? (TakenBy(option) is "files" or "folders" ? " -r" : " -x") + FishValue(TakenBy(option))
                    : "";
                Add(script, $"{here} -l {option.Name[2..]}{string.Concat(brief)}{value} -d {Quoted(option.Description ?? "")}\n");
            }
        }

        return script.ToString();
    }

    private static IEnumerable<Command> All(Command command) => command.Subcommands.Where(sub => !sub.Hidden)
        .SelectMany(sub => All(sub).Prepend(sub));

    private static string WordsOf(Command command) => string.Join(' ', command.Subcommands.Where(sub => !sub.Hidden)
        .Select(sub => sub.Name).Concat(HelpText.OptionsOf(command).Select(option => option.Name)));

    /// <summary>What the arguments of a command take; the last one goes for all where they differ.</summary>
    private static string TakenBy(Command command) => command.Arguments.Count == 0 ? "" : TakenBy(command.Arguments[^1]);

    private static string TakenBy(Symbol symbol) => ((symbol as IDeclared)?.Completion ?? Completion.None) switch
    {
        Completion.OfferedApp => Offered,
        Completion.InstalledApp => Installed,
        Completion.Catalogue => Catalogues,
        Completion.File => "files",
        Completion.Folder => "folders",
        Completion.Word => "words:" + string.Join(' ', ((IDeclared)symbol).Words),
        Completion.None => symbol is Option ? "none" : "",
    };

    private static IEnumerable<(IEnumerable<string> Names, string Takes)> ValuedOptions(RootCommand root) =>
        All(root).Prepend(root)
        .SelectMany(HelpText.OptionsOf)
        .Where(TakesValue)
        .DistinctBy(option => option.Name)
        .Select(option => (option.Aliases.Append(option.Name), TakenBy(option)));

    private static bool TakesValue(Option option) => option.ValueType != typeof(bool);

    private static string FishValue(string takes) => takes switch
    {
        "files" => " -F",
        "folders" => " -a '(__fish_complete_directories)'",
        "none" or "" => "",
        _ when takes.StartsWith("words:", StringComparison.Ordinal) => $" -a {Quoted(takes["words:".Length..])}",
        _ => $" -a '(__acrate_names {takes})'",
    };

    private static void Add(StringBuilder script, string text) => script.Append(text);

    private static string Described(string name, string? meaning) => Quoted($"{name}:{meaning}");

    /// <summary>A word for a shell, in single quotes, which all three shells read the same except for the quote itself.</summary>
    private static string Quoted(string text) => $"'{text.Replace("'", "’", StringComparison.Ordinal)}'";
}
