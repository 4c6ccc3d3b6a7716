using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Layout;

/// <summary>
/// What a user has set about how the program works: each value from an option, else a variable, else a file, else its default.
/// </summary>
/// <param name="values">A value for every key.</param>
public sealed class Settings(IReadOnlyList<SettingValue> values)
{
    /// <summary>How long a catalogue that could not be reached is left alone by commands that refresh on their own.</summary>
    public static readonly TimeSpan Respite = TimeSpan.FromMinutes(10);

    /// <summary>The default.</summary>
    public static Settings Defaults { get; } = new(
        [.. SettingKey.All.Select(key => new SettingValue(key, key.Default, SettingOrigin.Default, ""))]);

    /// <summary>Every value with its origin, in the order they are shown.</summary>
    public IReadOnlyList<SettingValue> Values => values;

    /// <summary>How many files are fetched at a time.</summary>
    public int Downloads => SettingKey.WholeOf(this[SettingKey.Downloads]);

    /// <summary>How many bytes may arrive in a second, all downloads together; null for no limit.</summary>
    public long? Bandwidth => SettingKey.BytesOf(this[SettingKey.Bandwidth]);

    /// <summary>How many bytes of downloads are kept.</summary>
    public long CacheSize => SettingKey.BytesOf(this[SettingKey.CacheSize]) ?? long.MaxValue;

    /// <summary>The folder for downloads; null for the usual one.</summary>
    public string? CacheFolder => SettingKey.ChosenOf(this[SettingKey.CacheFolder]);

    /// <summary>The wait after the first download that failed.</summary>
    public TimeSpan RetryWait => SettingKey.SecondsOf(this[SettingKey.RetryWait]);

    /// <summary>How long a server may be silent.</summary>
    public TimeSpan NetworkTimeout => SettingKey.SecondsOf(this[SettingKey.NetworkTimeout]);

    /// <summary>How old catalogue data may be before a command refreshes them on its own; null for never.</summary>
    public TimeSpan? RefreshAfter =>
        SettingKey.WholeOf(this[SettingKey.RefreshHours]) is > 0 and var hours ? TimeSpan.FromHours(hours) : null;

    /// <summary>How long to wait for another run to end before giving up.</summary>
    public TimeSpan LockWait => SettingKey.SecondsOf(this[SettingKey.Wait]);

    /// <summary>How many logs of runs are kept.</summary>
    public int KeptLogs => SettingKey.WholeOf(this[SettingKey.Logs]);

    /// <summary>For how many days everything is kept that undo needs.</summary>
    public int UndoDays => SettingKey.WholeOf(this[SettingKey.UndoDays]);

    /// <summary>The ids of apps that are not uninstalled.</summary>
    public IReadOnlySet<AppId> Protected =>
        SettingKey.WordsOf(this[SettingKey.Protected]).Select(AppId.Parse).ToHashSet();

    /// <summary>The word for the program that raises rights; null for the first that is there.</summary>
    public string? Raise => SettingKey.ChosenOf(this[SettingKey.Raise]);

    /// <summary>Whether a catalogue on the internet may name addresses inside private networks.</summary>
    public bool AllowsInternalAddresses => SettingKey.IsAllowed(this[SettingKey.InternalAddresses]);

    private string this[SettingKey key] => values.First(value => value.Key == key).Text;
}
