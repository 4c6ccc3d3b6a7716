using System.Globalization;
using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Layout;

/// <summary>Something that a user can set: by an option, a variable, or a line in a file.</summary>
/// <param name="Name">The key in the file.</param>
/// <param name="Variable">The environment variable.</param>
/// <param name="Option">The option; null where there is none.</param>
/// <param name="Default">The default, as it would be written; empty for nothing.</param>
/// <param name="Expected">What a value must look like, for messages.</param>
/// <param name="Meaning">What it does, for people.</param>
/// <param name="IsValid">Whether a text is such a value.</param>
public sealed record SettingKey(
    string Name, string Variable, string? Option, string Default, string Expected, string Meaning, Func<string, bool> IsValid)
{
    private const string Unlimited = "unlimited", Automatic = "auto", Refused = "refuse", Allowed = "allow", Nothing = "none";

    /// <summary>How many files are downloaded at a time.</summary>
    public static SettingKey Downloads { get; } = CreateNumber(
        "downloads", "ACRATE_DOWNLOADS", "--downloads", "4", (1, 64), "How many files are downloaded at a time.");

    /// <summary>How many bytes may arrive in a second.</summary>
    public static SettingKey Bandwidth { get; } = new(
        "bandwidth", "ACRATE_BANDWIDTH", "--bandwidth", Unlimited, $"{ByteSize.Expected}, or {Unlimited}",
        "How many bytes may arrive in a second, all downloads together.",
        text => text == Unlimited || ByteSize.TryParse(text, out _));

    /// <summary>How many bytes of downloads are kept.</summary>
    public static SettingKey CacheSize { get; } = new(
        "cache_size", "ACRATE_CACHE_SIZE", null, "10GiB", ByteSize.Expected,
        "How many bytes of downloads are kept for the next time.", text => ByteSize.TryParse(text, out _));

    /// <summary>The folder for downloads.</summary>
    public static SettingKey CacheFolder { get; } = new(
        "cache_folder", "ACRATE_CACHE", null, Automatic, $"the path of a folder, or {Automatic}",
        "The folder for downloads. By default it is in the cache folder of the XDG specification.",
        text => text.Length > 0);

    /// <summary>The wait before a download is tried again.</summary>
    public static SettingKey RetryWait { get; } = CreateSeconds(
        "retry_wait", "ACRATE_RETRY_WAIT", null, "1", (0, 60),
        "Seconds before a download that has failed is tried again. Each further wait is twice as long.");

    /// <summary>How long a server may be silent.</summary>
    public static SettingKey NetworkTimeout { get; } = CreateSeconds(
        "network_timeout", "ACRATE_NETWORK_TIMEOUT", null, "30", (0.01m, 3600), "Seconds that a server may be silent.");

    /// <summary>How old catalogue data may be.</summary>
    public static SettingKey RefreshHours { get; } = CreateNumber(
        "refresh_hours", "ACRATE_REFRESH_HOURS", null, "24", (0, 8760),
        "Hours after which catalogue data are refreshed on the way. 0 means never.");

    /// <summary>How long to wait for another run.</summary>
    public static SettingKey Wait { get; } = CreateSeconds(
        "wait", "ACRATE_WAIT", "--wait", "0", (0, 86_400), "Seconds to wait for another run to end.");

    /// <summary>How many logs are kept.</summary>
    public static SettingKey Logs { get; } = CreateNumber(
        "logs", "ACRATE_LOGS", null, "100", (0, 100_000), "How many logs of runs are kept.");

    /// <summary>For how long everything is kept that undo needs.</summary>
    public static SettingKey UndoDays { get; } = CreateNumber(
        "undo_days", "ACRATE_UNDO_DAYS", null, "14", (0, 3650),
        "How many days acrate reclaim keeps old versions, so that acrate undo needs no download.");

    /// <summary>The apps that are not uninstalled.</summary>
    public static SettingKey Protected { get; } = new(
        "protected", "ACRATE_PROTECTED", null, Nothing, $"the ids of apps with spaces between, or {Nothing}",
        "Apps that acrate uninstall refuses to remove.",
        text => text == Nothing || text.Split(' ').All(id => AppId.TryParse(id, out _)));

    /// <summary>By what rights are raised.</summary>
    public static SettingKey Raise { get; } = new(
        "raise", "ACRATE_RAISE", null, Automatic, $"one of {string.Join(", ", RaisingNames.Prepend(Automatic))}",
        "The program that asks for administrator rights.",
        text => text == Automatic || RaisingNames.Contains(text));

    /// <summary>Whether a catalogue on the internet may name addresses inside private networks.</summary>
    public static SettingKey InternalAddresses { get; } = new(
        "internal_addresses", "ACRATE_INTERNAL_ADDRESSES", null, Refused, $"{Refused} or {Allowed}",
        "Whether a catalogue on the internet may name files on this machine's own or a private network.",
        text => text is Refused or Allowed);

    /// <summary>All keys, in the order they are shown.</summary>
    public static IReadOnlyList<SettingKey> All { get; } =
        [Downloads, Bandwidth, CacheSize, CacheFolder, RetryWait, NetworkTimeout, RefreshHours, Wait, Logs, UndoDays,
            Protected, Raise,
            InternalAddresses];

    /// <summary>The words for the programs that raise rights, the first to be tried first, and for none of them.</summary>
    private static string[] RaisingNames => ["sudo", "run0", "pkexec", "none"];

    /// <summary>The value of a text as a number of seconds.</summary>
    internal static TimeSpan SecondsOf(string text) =>
        TimeSpan.FromSeconds((double)decimal.Parse(text, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture));

    /// <summary>The value of a text that allows or refuses something.</summary>
    internal static bool IsAllowed(string text) => text == Allowed;

    /// <summary>The value of a text that lists things.</summary>
    internal static IReadOnlySet<string> WordsOf(string text) =>
        text == Nothing ? new HashSet<string>() : text.Split(' ').ToHashSet(StringComparer.Ordinal);

    /// <summary>The value of a text as a whole number.</summary>
    internal static int WholeOf(string text) => int.Parse(text, NumberStyles.None, CultureInfo.InvariantCulture);

    /// <summary>The value of a text as a number of bytes; null where there is no limit.</summary>
    internal static long? BytesOf(string text) => ByteSize.TryParse(text, out var bytes) ? bytes : null;

    /// <summary>The value of a text; null where the program decides by itself.</summary>
    internal static string? ChosenOf(string text) => text == Automatic ? null : text;

    private static SettingKey CreateNumber(
        string name, string variable, string? option, string otherwise, (int Least, int Most) range, string meaning) => new(
        name, variable, option, otherwise, $"a whole number from {range.Least} to {range.Most}", meaning,
        text => int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var number) && number >= range.Least
            && number <= range.Most);

    private static SettingKey CreateSeconds(
        string name, string variable, string? option, string otherwise, (decimal Least, decimal Most) range,
        string meaning) => new(
        name, variable, option, otherwise,
        string.Create(CultureInfo.InvariantCulture, $"a number of seconds from {range.Least} to {range.Most}"), meaning,
        text => decimal.TryParse(text, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var number)
            && number >= range.Least
            && number <= range.Most);
}
