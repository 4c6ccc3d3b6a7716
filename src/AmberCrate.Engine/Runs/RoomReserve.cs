using AmberCrate.Engine.Host;
using AmberCrate.Engine.Layout;

namespace AmberCrate.Engine.Runs;

/// <summary>
/// A little room on the disk of the records, and a few inodes, held by files without meaning. A full disk must not keep anybody
/// from removing apps: when something cannot be written, these files go first.
/// </summary>
internal static class RoomReserve
{
    private const int Files = 32;
    private const long BytesEach = 32 << 10, Whole = Files * BytesEach, LeftBeside = 8 * Whole;

    /// <summary>Holds the room where it is not held yet and the disk has plenty. It is no reason to fail where that does not
    /// work.</summary>
    public static void Hold(MachineLayout layout)
    {
        if (Directory.Exists(layout.ReserveFolder)) return;
        try
        {
            if (new DriveInfo(layout.StateFolder).AvailableFreeSpace < Whole + LeftBeside) return;
            Directory.CreateDirectory(layout.ReserveFolder);
            for (var file = 1; file <= Files; file++) Fill(Path.Combine(layout.ReserveFolder, $"{file}"), BytesEach);
        }
        catch (Exception fault) when (IoProblems.IsExpected(fault))
        {
            GiveUp(layout);
        }
    }

    /// <summary>
    /// Does something that removes things. If the disk has no room or no inodes for it, the reserve is given up, and it is done
    /// again.
    /// </summary>
    public static T WithReserve<T>(MachineLayout layout, Func<T> act)
    {
        try
        {
            return act();
        }
        catch (Exception fault) when (IoProblems.IsNoRoom(fault) && GiveUp(layout))
        {
            return act();
        }
    }

    /// <summary>Gives the reserve up.</summary>
    /// <returns>Whether there was one.</returns>
    public static bool GiveUp(MachineLayout layout)
    {
        if (!Directory.Exists(layout.ReserveFolder)) return false;
        Remove(() => Directory.Delete(layout.ReserveFolder, recursive: true));
        return !Directory.Exists(layout.ReserveFolder);
    }

    /// <summary>Makes a file that has its blocks on the disk, not only its length.</summary>
    private static void Fill(string path, long bytes) =>
        File.OpenHandle(path, FileMode.Create, FileAccess.Write, preallocationSize: bytes).Dispose();

    private static void Remove(Action remove)
    {
        try
        {
            remove();
        }
        catch (Exception fault) when (IoProblems.IsExpected(fault))
        {
            // What cannot be removed is reported by the run, which will fail for the same reason.
        }
    }
}
