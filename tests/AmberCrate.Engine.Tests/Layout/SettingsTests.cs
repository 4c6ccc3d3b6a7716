using AmberCrate.Core.Problems;
using AmberCrate.Engine.Layout;

namespace AmberCrate.Engine.Tests.Layout;

public sealed class SettingsTests : IDisposable
{
    private readonly TemporaryFolder _folder = new();
    private readonly Dictionary<string, string> _options = [], _variables = [];

    [Fact]
    public void Each_value_comes_from_the_option_else_the_variable_else_the_file_else_the_default()
    {
        Write("own.toml", "downloads = 7\nbandwidth = \"2MiB\"");
        Write("machine.toml", "downloads = 3\nlogs = 5\nretry_wait = \"0.5\"");
        Shown("downloads").ShouldBe($"7 file {_folder["own.toml"]}:1");
        Shown("bandwidth").ShouldBe($"2MiB file {_folder["own.toml"]}:2");
        Shown("logs").ShouldBe($"5 file {_folder["machine.toml"]}:2");
        Shown("wait").ShouldBe("0 default ");
        _variables["ACRATE_DOWNLOADS"] = "8";
        Shown("downloads").ShouldBe("8 variable ACRATE_DOWNLOADS");
        _options["--downloads"] = "9";
        Shown("downloads").ShouldBe("9 option --downloads");
        var settings = Read();
        (settings.Downloads, settings.Bandwidth, settings.KeptLogs, settings.RetryWait).ShouldBe(
            (9, 2L << 20, 5, TimeSpan.FromSeconds(0.5)));
    }

    [Theory]
    [InlineData("downloads = 0", "1: downloads: expected a whole number from 1 to 64, as a number or in quotes, found 0")]
    [InlineData("\ndownload = 4", "2: download: unknown key; did you mean downloads?")]
    [InlineData("wait = true", "1: wait: expected a number of seconds from 0 to 86400, as a number or in quotes, found true")]
    [InlineData("wait = ", "1: not valid TOML")]
    public void A_faulty_file_is_named_with_line_and_key(string text, string fault)
    {
        Write("own.toml", text);
        var refused = Should.Throw<ProblemException>(Read).Problem;
        (refused.Code, refused.What).ShouldBe((ProblemCode.BadCommandLine, $"{_folder["own.toml"]} has 1 fault"));
        refused.Details.ShouldHaveSingleItem().ToString().ShouldStartWith($"{_folder["own.toml"]}:{fault}");
    }

    [Fact]
    public void A_file_that_others_may_change_is_not_used()
    {
        Write("own.toml", "downloads = 7");
        File.SetUnixFileMode(_folder["own.toml"], (UnixFileMode)0x1B6);
        var refused = Should.Throw<ProblemException>(Read).Problem;
        (refused.Code, refused.Remedy.ToString()).ShouldBe((ProblemCode.Refused, $"chmod o-w {_folder["own.toml"]}"));
    }

    [Fact]
    public void Every_default_is_a_value_that_could_be_set() => SettingKey.All.ShouldAllBe(key => key.IsValid(key.Default));

    [Fact]
    public void The_page_on_settings_says_what_the_program_knows()
    {
        var page = File.ReadAllLines(Path.Combine(Repository.Folder, "docs", "settings.md"));
        page.Where(line => line.StartsWith("| `", StringComparison.Ordinal)).ShouldBe(SettingKey.All.Select(Row));
    }

    public void Dispose() => _folder.Dispose();

    /// <summary>The row of a setting in docs/settings.md.</summary>
    private static string Row(SettingKey key)
    {
        var option = key.Option is null ? "" : $"`{key.Option}`";
        return $"| `{key.Name}` | {option} | `{key.Variable}` | `{key.Default}` | {key.Meaning} Expected: {key.Expected}. |";
    }

    private Settings Read() =>
        new SettingsReader(
            _options.GetValueOrDefault, _variables.GetValueOrDefault, [_folder["own.toml"], _folder["machine.toml"]]).Read();

    private string Shown(string name)
    {
        var value = Read().Values.Single(value => value.Key.Name == name);
        return $"{value.Text} {OriginWords.Origins.WordOf(value.Origin)} {value.Where}";
    }

    private void Write(string file, string text)
    {
        File.WriteAllText(_folder[file], text);
        File.SetUnixFileMode(_folder[file], UnixFileMode.UserRead | UnixFileMode.UserWrite);
    }
}
