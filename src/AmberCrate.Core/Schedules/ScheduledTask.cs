using AmberCrate.Core.Values;

namespace AmberCrate.Core.Schedules;

/// <summary>What can be done on a timer.</summary>
public enum ScheduledTask
{
    /// <summary>Look at what is outdated, and write metrics.</summary>
    Due,

    /// <summary>Upgrade what is outdated.</summary>
    Upgrade,

    /// <summary>Refresh the catalogues.</summary>
    Refresh,

    /// <summary>Keep the machine to a bundle.</summary>
    Equip,

    /// <summary>Sign again what ends soon in a published catalogue.</summary>
    Renew,
}

/// <summary>The words for <see cref="ScheduledTask"/>, on the command line, in files and in JSON.</summary>
public static class TaskWords
{
    /// <summary>A word for each task.</summary>
    public static WordTable<ScheduledTask> Tasks { get; } = new(
        (ScheduledTask.Due, "due"), (ScheduledTask.Upgrade, "upgrade"), (ScheduledTask.Refresh, "refresh"),
        (ScheduledTask.Equip, "equip"), (ScheduledTask.Renew, "renew"));
}
