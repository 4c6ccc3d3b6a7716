using System.CommandLine;
using System.Globalization;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Runs;

namespace AmberCrate.Cli.Commands;

/// <summary>Reads what a person has set about transfers, by options or else by variables.</summary>
internal sealed class SettingsReader(ParseResult parsed)
{
    private const int MostAtOnce = 64, MostLogs = 100_000, MostWait = 86_400;

    /// <summary>How artifacts are fetched.</summary>
    /// <exception cref="ProblemException">A setting cannot be read.</exception>
    public TransferSettings Transfers()
    {
        var usual = new TransferSettings();
        return usual with
        {
            AtOnce = Set(CommonOptions.Transfers, "ACRATE_TRANSFERS") is { } atOnce ? (int)Number(atOnce, 1, MostAtOnce) : usual.AtOnce,
            Bandwidth = Set(CommonOptions.Bandwidth, "ACRATE_BANDWIDTH") is { } bandwidth ? Bytes(bandwidth) : null,
            CacheSize = Set(null, "ACRATE_CACHE_SIZE") is { } size ? Bytes(size) : usual.CacheSize,
            Retries = Set(null, "ACRATE_RETRY_WAIT") is { } wait ? RetryRule.Usual with { FirstWait = TimeSpan.FromSeconds(Number(wait, 0, 60)) } : usual.Retries,
        };
    }

    /// <summary>How many logs of runs are kept.</summary>
    /// <exception cref="ProblemException">The setting cannot be read.</exception>
    public int KeptLogs() => Set(null, "ACRATE_LOGS") is { } kept ? WholeNumber(kept, 0, MostLogs) : WorkstationSettings.DefaultKeptLogs;

    /// <summary>How long to wait for another run to end.</summary>
    /// <exception cref="ProblemException">The setting cannot be read.</exception>
    public TimeSpan LockPatience() => Set(CommonOptions.Wait, "ACRATE_WAIT") is { } wait ? TimeSpan.FromSeconds(WholeNumber(wait, 0, MostWait)) : TimeSpan.Zero;

    private static int WholeNumber((string Name, string Text) setting, int least, int most) =>
        int.TryParse(setting.Text, NumberStyles.None, CultureInfo.InvariantCulture, out var number) && number >= least && number <= most
            ? number
            : throw Bad(setting, $"a whole number from {least} to {most}");

    private (string Name, string Text)? Set(Option<string>? option, string variable)
    {
        if (option is not null && parsed.GetResult(option) is not null && parsed.GetValue(option) is { } given) return (option.Name, given);
        return Environment.GetEnvironmentVariable(variable) is { Length: > 0 } text ? (variable, text) : null;
    }

    private static double Number((string Name, string Text) setting, double least, double most) =>
        double.TryParse(setting.Text, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var number) && number >= least && number <= most && (least == 0 || number == Math.Floor(number))
            ? number
            : throw Bad(setting, string.Create(CultureInfo.InvariantCulture, $"a {(least == 0 ? "number of seconds" : "whole number")} from {least} to {most}"));

    private static long Bytes((string Name, string Text) setting) => ByteSize.TryParse(setting.Text, out var bytes) ? bytes : throw Bad(setting, ByteSize.Expected);

    private static ProblemException Bad((string Name, string Text) setting, string expected) => new Problem(ProblemCode.BadCommandLine, $"{setting.Name} is \"{setting.Text}\"", $"expected {expected}").ToException();
}
