using AmberCrate.Core.Problems;
using AmberCrate.Core.Toml;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Layout;

/// <summary>Reads the settings of a call.</summary>
/// <param name="option">Reads an option as it was given, by its name; null where it was not.</param>
/// <param name="variable">Reads an environment variable.</param>
/// <param name="files">The configuration files, the most important first; they need not be there.</param>
public sealed class SettingsReader(Func<string, string?> option, Func<string, string?> variable, IReadOnlyList<string> files)
{
    /// <summary>The name of a configuration file.</summary>
    public const string FileName = "acrate.toml";

    private const UnixFileMode OthersMayWrite = UnixFileMode.OtherWrite;

    /// <summary>Reads every setting.</summary>
    /// <exception cref="ProblemException">A value cannot be used, or a file has faults.</exception>
    public Settings Read()
    {
        List<IReadOnlyDictionary<string, SettingValue>> inFiles = [.. files.Where(File.Exists).Select(ReadFile)];
        return new Settings([.. SettingKey.All.Select(key => Given(key)
            ?? Variable(key) ?? InFile(key, inFiles) ?? new SettingValue(key, key.Default, SettingOrigin.Default, ""))]);
    }

    private SettingValue? Given(SettingKey key) =>
        key.Option is { } name && option(name) is { } text
            ? Checked(new SettingValue(key, text, SettingOrigin.Option, name))
            : null;

    private SettingValue? Variable(SettingKey key) =>
        variable(key.Variable) is { Length: > 0 } text
            ? Checked(new SettingValue(key, text, SettingOrigin.Variable, key.Variable))
            : null;

    private static SettingValue? InFile(SettingKey key, IEnumerable<IReadOnlyDictionary<string, SettingValue>> inFiles) =>
        inFiles.Select(values => values.GetValueOrDefault(key.Name)).FirstOrDefault(value => value is not null);

    private static SettingValue Checked(SettingValue value) => value.Key.IsValid(value.Text) ? value : throw new Problem(
        ProblemCode.BadCommandLine, $"{value.Where} is \"{value.Text}\"", $"expected {value.Key.Expected}").ToException();

    private static Dictionary<string, SettingValue> ReadFile(string path)
    {
        if ((File.GetUnixFileMode(path) & OthersMayWrite) != 0)
            throw new Problem(
                ProblemCode.Refused, $"the settings in {path} are not used", "other users can change it",
                $"chmod o-w {ShellWord.Quote(path)}").ToException();
        var faults = new List<FormatFault>();
        var values = new Dictionary<string, SettingValue>(StringComparer.Ordinal);
        var text = TextFile.Read(path, path, faults);
        foreach (var (name, value) in TomlText.Read(text, path, faults)?.Entries ?? [])
        {
            if (ValueOf(path, name, value, faults) is { } set) values.Add(name, set);
        }

        if (faults.Count == 0) return values;
        var count = FormatFault.Words(faults.Count);
        throw new Problem(
            ProblemCode.BadCommandLine, $"{path} has {count}", "no setting has been used",
            "correct them; docs/settings.md describes every key")
        {
            Details = [.. faults.Select(fault => fault.ToString())],
        }.ToException();
    }

    private static SettingValue? ValueOf(string path, string name, TomlValue value, List<FormatFault> faults)
    {
        if (SettingKey.All.FirstOrDefault(key => key.Name == name) is not { } known)
        {
            faults.Add(new FormatFault(
                path, value.Line, name, WordDistance.Nearest(name, SettingKey.All.Select(key => key.Name)) is { } meant
                    ? $"unknown key; did you mean {meant}?"
                    : $"unknown key; known here: {string.Join(", ", SettingKey.All.Select(key => key.Name))}"));
            return null;
        }

        var text = value switch
        {
            TomlString written => written.Value,
            TomlInteger number => $"{number.Value}",
            _ => null,
        };
        if (text is not null && known.IsValid(text))
            return new SettingValue(known, text, SettingOrigin.File, $"{path}:{value.Line}");
        faults.Add(
            new FormatFault(path, value.Line, name, $"expected {known.Expected}, as a number or in quotes, found {value.Kind}"));
        return null;
    }
}
