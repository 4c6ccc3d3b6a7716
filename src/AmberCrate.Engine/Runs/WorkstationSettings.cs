using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Layout;

namespace AmberCrate.Engine.Runs;

/// <summary>What a person has set about how the program works.</summary>
/// <param name="Layout">Where everything lies.</param>
/// <param name="NetworkPatience">How long a server may be silent.</param>
/// <param name="RefreshAfter">How old catalogue data may be before a command refreshes them on its own; null for never.</param>
/// <param name="IsOffline">Whether nobody may be asked over the network.</param>
/// <param name="Variable">Reads an environment variable, for the credentials of catalogues.</param>
public sealed record WorkstationSettings(MachineLayout Layout, TimeSpan NetworkPatience, TimeSpan? RefreshAfter, bool IsOffline, Func<string, string?> Variable)
{
    /// <summary>Where the other scope lies, whose apps are shown beside these.</summary>
    public MachineLayout OtherLayout { get; init; } = MachineLayout.OfEveryone();

    /// <summary>How artifacts are fetched.</summary>
    public TransferSettings Transfers { get; init; } = new();

    /// <summary>How many logs of runs are kept.</summary>
    public int KeptLogs { get; init; } = DefaultKeptLogs;

    /// <summary>How long to wait for another run to end before giving up.</summary>
    public TimeSpan LockPatience { get; init; }

    /// <summary>How many logs of runs are kept unless set otherwise.</summary>
    public const int DefaultKeptLogs = 100;

    /// <summary>How old catalogue data may be unless set otherwise.</summary>
    public static readonly TimeSpan DefaultRefreshAfter = TimeSpan.FromDays(1);

    /// <summary>How long a catalogue that could not be reached is left alone by commands that refresh on their own.</summary>
    public static readonly TimeSpan Respite = TimeSpan.FromMinutes(10);
}
