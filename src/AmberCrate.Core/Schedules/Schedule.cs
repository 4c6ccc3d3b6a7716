namespace AmberCrate.Core.Schedules;

/// <summary>A task that is done on a timer.</summary>
/// <param name="Task">The task.</param>
/// <param name="At">When, as a calendar expression of systemd.time(7).</param>
public sealed record Schedule(ScheduledTask Task, string At)
{
    /// <summary>By how many minutes at most each machine waits longer, so that not all come at once.</summary>
    public int DelayMinutes { get; init; }

    /// <summary>The time of a day when it may run; null for any.</summary>
    public MaintenanceWindow? Window { get; init; }

    /// <summary>The file into which metrics are written; null for none.</summary>
    public string? Metrics { get; init; }

    /// <summary>Whether a user who is signed in on the desktop gets a notice of what happened.</summary>
    public bool Notifies { get; init; }

    /// <summary>The bundle that the machine is kept to, an address or <c>catalogue:bundle</c>; null for other tasks.</summary>
    public string? Bundle { get; init; }

    /// <summary>Whether chosen apps that the bundle does not list are uninstalled.</summary>
    public bool UninstallsOthers { get; init; }

    /// <summary>For equip: whether installed apps that the bundle lists without a version are upgraded.</summary>
    public bool Upgrades { get; init; }

    /// <summary>The published folder that is signed again, absolute; null for other tasks.</summary>
    public string? Published { get; init; }

    /// <summary>The folder of the keys that sign it, absolute.</summary>
    public string? Keys { get; init; }

    /// <summary>The file whose first line is the passphrase of the keys, absolute; null for none.</summary>
    public string? PassphraseFile { get; init; }

    /// <summary>Whether only security fixes are taken.</summary>
    public bool IsSecurityOnly { get; init; }

    /// <summary>For how many minutes it is waited for apps to be closed.</summary>
    public int WaitMinutes { get; init; }
}
