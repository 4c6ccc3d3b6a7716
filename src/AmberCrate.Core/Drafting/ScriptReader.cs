using System.Text.RegularExpressions;

namespace AmberCrate.Core.Drafting;

/// <summary>
/// Reads from scripts and modules what they need: for Python the imports of its language reference, for Perl <c>use</c> and
/// <c>require</c>, for typelibs what PyGObject and GJS write. Only what begins a line counts: what is
/// indented is in a function, a class, or a try, and may never be reached.
/// </summary>
public static partial class ScriptReader
{
    private const int Patience = 1000;

    /// <summary>Reads a file.</summary>
    /// <param name="path">Its path in the shelf entry.</param>
    /// <param name="text">Its text.</param>
    public static PackedScript Read(string path, string text)
    {
        var interpreter = InterpreterOf(text);
        var language = LanguageOf(interpreter?.Split('/')[^1], path);
        var code = language == "python3" ? WithoutTexts(text) : text;
        return new PackedScript(
            path, interpreter,
            language switch
            {
                "python3" => [.. PythonImports(code).Distinct()],
                "perl" => [.. PerlUses(code).Distinct()],
                _ => [],
            },
            language switch
            {
                "python3" => [.. PythonTypelibs(code, text).Distinct()],
                "gjs" => [.. GjsTypelibs(text).Distinct()],
                _ => [],
            },
            [.. AbsolutePath().Matches(text).Select(match => match.Groups["path"].Value.TrimEnd('.', '/')).Distinct()]);
    }

    /// <summary>The language of a script by its interpreter, of a module by its name; null where it is none of these.</summary>
    /// <param name="interpreter">The name of the interpreter; null for none.</param>
    /// <param name="path">The path of the file.</param>
    public static string? LanguageOf(string? interpreter, string path) => interpreter switch
    {
        not null when interpreter.StartsWith("python3", StringComparison.Ordinal) => "python3",
        not null when interpreter.StartsWith("perl", StringComparison.Ordinal) => "perl",
        "gjs" or "gjs-console" => "gjs",
        not null => null,
        null when path.EndsWith(".py", StringComparison.Ordinal) => "python3",
        null when path.EndsWith(".pm", StringComparison.Ordinal) || path.EndsWith(".pl", StringComparison.Ordinal) => "perl",
        _ => null,
    };

    /// <summary>
    /// The interpreter that the first line of a script names, with env(1) looked through; null where it is no script.
    /// </summary>
    /// <param name="text">The beginning of the script.</param>
    public static string? InterpreterOf(string text)
    {
        if (!text.StartsWith("#!", StringComparison.Ordinal)) return null;
        var words = text[2..].Split('\n')[0].Split([' ', '\t', '\r'], StringSplitOptions.RemoveEmptyEntries);
        if (words.Length == 0) return null;
        return words[0].EndsWith("/env", StringComparison.Ordinal)
            ? words.Skip(1).FirstOrDefault(word => !word.StartsWith('-') && !word.Contains('=', StringComparison.Ordinal))
                ?? words[0]
            : words[0];
    }

    /// <summary>The imports: <c>a.b</c> for a module, <c>a:b</c> for b of a, which may be a module or a name in it.</summary>
    private static IEnumerable<string> PythonImports(string code)
    {
        foreach (var line in Logical(code))
        {
            if (line.StartsWith("import ", StringComparison.Ordinal))
            {
                foreach (var name in line["import ".Length..].Split(',')) yield return name.Trim().Split(' ')[0];
            }
            else if (PythonFrom().Match(line) is { Success: true } from)
            {
                var module = from.Groups["module"].Value;
                foreach (var name in from.Groups["names"].Value.Trim('(', ')', ' ').Split(','))
                {
                    var first = name.Trim().Split(' ')[0];
                    if (first.Length > 0) yield return $"{module}:{first}";
                }
            }
        }
    }

    /// <summary>The lines at the left margin; a line that goes on in brackets or behind a backslash is one.</summary>
    private static IEnumerable<string> Logical(string code)
    {
        var lines = code.Split('\n');
        for (var at = 0; at < lines.Length; at++)
        {
            var line = lines[at].TrimEnd('\r');
            if (line.Length == 0 || char.IsWhiteSpace(line[0])) continue;
            while (at + 1 < lines.Length && (line.EndsWith('\\') || line.Count(c => c == '(') > line.Count(c => c == ')'))
                && line.Length < 20_000) line = line.TrimEnd('\\') + " " + lines[++at].Trim();
            foreach (var part in line.Split(';')) yield return part.Trim();
        }
    }

    private static IEnumerable<string> PythonTypelibs(string code, string text)
    {
        var versions = RequireVersion().Matches(text)
            .GroupBy(match => match.Groups["name"].Value, match => match.Groups["version"].Value, StringComparer.Ordinal)
            .ToDictionary(group => group.Key, group => group.Distinct().ToList(), StringComparer.Ordinal);
        foreach (var import in PythonImports(code))
        {
            if (!import.StartsWith("gi.repository:", StringComparison.Ordinal)) continue;
            var name = import["gi.repository:".Length..];
            yield return versions.GetValueOrDefault(name) is [var only] ? $"{name}-{only}" : name;
        }
    }

    private static IEnumerable<string> GjsTypelibs(string text) => GjsVersion().Matches(text)
        .Select(match => $"{match.Groups["name"].Value}-{match.Groups["version"].Value}");

    private static IEnumerable<string> PerlUses(string code)
    {
        // What follows the end of the code is documentation or data.
        var end = PerlEnd().Match(code);
        foreach (Match use in PerlUse().Matches(end.Success ? code[..end.Index] : code))
        {
            // Names in small letters are pragmas, which every Perl has.
            if (char.IsAsciiLetterUpper(use.Groups["name"].Value[0])) yield return use.Groups["name"].Value;
        }
    }

    /// <summary>Python without what is in its texts and comments, so that nothing there counts as code.</summary>
    private static string WithoutTexts(string text) => PythonText().Replace(
        text,
        found => found.Value.StartsWith('#') ? "" : found.Value.Contains('\n', StringComparison.Ordinal) ? "''" : found.Value);

    [GeneratedRegex("^from\\s+(?<module>[.\\w]+)\\s+import\\s+(?<names>.+)$", RegexOptions.ExplicitCapture, Patience)]
    private static partial Regex PythonFrom();

    [GeneratedRegex("\"\"\"[\\s\\S]*?\"\"\"|'''[\\s\\S]*?'''|\"(\\\\.|[^\"\\\\\\n])*\"|'(\\\\.|[^'\\\\\\n])*'|#[^\\n]*",
        RegexOptions.ExplicitCapture, Patience)]
    private static partial Regex PythonText();

    [GeneratedRegex("require_version\\(\\s*[\"'](?<name>\\w+)[\"']\\s*,\\s*[\"'](?<version>[\\d.]+)[\"']",
        RegexOptions.ExplicitCapture, Patience)]
    private static partial Regex RequireVersion();

    [GeneratedRegex("(imports\\.gi\\.versions\\.(?<name>\\w+)\\s*=\\s*[\"'](?<version>[\\d.]+)[\"'])"
        + "|(gi://(?<name>\\w+)\\?version=(?<version>[\\d.]+))", RegexOptions.ExplicitCapture, Patience)]
    private static partial Regex GjsVersion();

    [GeneratedRegex("^(use|require)\\s+(?<name>[A-Za-z_]\\w*(::\\w+)*)", RegexOptions.ExplicitCapture | RegexOptions.Multiline,
        Patience)]
    private static partial Regex PerlUse();

    [GeneratedRegex("^(__END__|__DATA__|=[a-z]+\\b.*)$", RegexOptions.ExplicitCapture | RegexOptions.Multiline, Patience)]
    private static partial Regex PerlEnd();

    [GeneratedRegex("(?<![A-Za-z0-9._/$}~-])(?<path>/(usr|etc|opt|var|lib|srv)/[A-Za-z0-9._+/-]+)",
        RegexOptions.ExplicitCapture, Patience)]
    private static partial Regex AbsolutePath();
}
