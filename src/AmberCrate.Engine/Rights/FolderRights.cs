using AmberCrate.Core.Machine;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Rights;

/// <summary>
/// Says whether this process may write where a layout needs it: asked before anything is shown, and before anything changes.
/// </summary>
public static class FolderRights
{
    /// <summary>What keeps this process from writing to a layout; null where nothing does.</summary>
    /// <param name="layout">The layout.</param>
    public static Problem? Missing(MachineLayout layout)
    {
        foreach (var folder in Folders(layout))
        {
            var existing = MachineLayout.NearestThatIsThere(folder);
            if (File.Exists(existing)) return new Problem(
                ProblemCode.StateNeedsAttention, $"{folder} cannot be created", $"{existing} is a file",
                "move it away, or name another folder with --root");
            if (!Posix.CanWrite(existing)) return new Problem(
                ProblemCode.NoRights, $"{existing} cannot be written", "nothing has been changed",
                "check who owns the folder, or name another with --root");
        }

        return null;
    }

    /// <summary>Whether more rights would help: not where this process has them all.</summary>
    public static bool CanBeRaised => Posix.EffectiveUser() != 0;

    /// <summary>
    /// Whose folders a layout has, where they are those of another person: what this process put there would be no good to them,
    /// and in their way. Null where the layout is fit to be used.
    /// </summary>
    /// <param name="layout">The layout.</param>
    /// <param name="isNamed">Whether the user named its root; otherwise it is their HOME.</param>
    public static Problem? Foreign(MachineLayout layout, bool isNamed = false)
    {
        var self = Posix.EffectiveUser();
        foreach (var folder in Folders(layout).SelectMany(WayTo).Distinct())
        {
            if (Posix.OwnerOfLink(folder) is not { } owner || owner == self || owner == 0) continue;
            return new Problem(
                ProblemCode.NoRights,
                $"{folder} belongs to another user",
                $"its owner is user {owner}, this is user {self}; nothing has been changed",
                isNamed ? "run it as that user, or name another folder with --root"
                : self == 0 ? "run it as that user, without sudo, or add --all-users to install for all users"
                : "run it as that user, or with a HOME of your own");
        }

        return null;
    }

    /// <summary>
    /// A folder and all that are above it, as far as they are there. Each of them counts, links themselves included: whoever owns
    /// one decides where the way leads.
    /// </summary>
    private static IEnumerable<string> WayTo(string folder)
    {
        for (string? at = folder; at is { Length: > 1 }; at = Path.GetDirectoryName(at)) yield return at;
    }

    private static IEnumerable<string> Folders(MachineLayout layout) =>
        new[] { layout.StateFolder, layout.CacheFolder, layout.ShelfFolder, layout.FrontFolder, layout.DownloadsFolder }.Concat(
            Enum.GetValues<PlaceKind>().Select(kind => Path.GetDirectoryName(layout.PathOf(kind, "x"))!));
}
