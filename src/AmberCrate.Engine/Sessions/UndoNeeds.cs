using AmberCrate.Core.Machine;
using AmberCrate.Engine.Inspecting;
using AmberCrate.Engine.Records;

namespace AmberCrate.Engine.Sessions;

/// <summary>
/// What undo can need within its days. Neither reclaim nor the limit of the cache deletes any of it.
/// </summary>
/// <param name="records">The records.</param>
/// <param name="inspector">Looks at the shelf.</param>
/// <param name="days">For how many days undo is to work.</param>
/// <param name="now">The time.</param>
internal sealed class UndoNeeds(RecordStore records, AppInspector inspector, int days, DateTimeOffset now)
{
    /// <summary>Runs that began after this time can be undone.</summary>
    public DateTimeOffset Since => now - TimeSpan.FromDays(days);

    /// <summary>The states that undo can restore, and until when each is kept.</summary>
    public IReadOnlyList<(InstalledApp App, DateTimeOffset Until)> States => field ??= days == 0
        ? []
        : [.. records.StatesBefore(Since).Select(one => (one.App, one.Begun + TimeSpan.FromDays(days)))];

    /// <summary>
    /// The files that undo needs to restore these states, by digest, and until when each is kept: those of versions that are not
    /// whole on the shelf.
    /// </summary>
    public IReadOnlyDictionary<string, DateTimeOffset> Files => field ??= States
        .GroupBy(one => (one.App.Id, one.App.ShelfName, one.App.Sha256), (_, group) => group.MaxBy(one => one.Until))
        .Where(one => !inspector.IsShelfWhole(one.App))
        .SelectMany(one => one.App.Files.Select(file => (file.Sha256.Hex, one.Until)))
        .GroupBy(one => one.Hex, StringComparer.Ordinal)
        .ToDictionary(group => group.Key, group => group.Max(one => one.Until), StringComparer.Ordinal);
}
