using AmberCrate.Engine.Host;
using AmberCrate.Engine.Layout;

namespace AmberCrate.Engine.Runs;

/// <summary>
/// A little room on the disk of the records, held by files without meaning. A full disk must not keep anybody from removing apps:
/// then these files go first, so that the records can be written.
/// </summary>
internal static class RoomReserve
{
    private const int Files = 8;
    private const long BytesEach = 128 << 10, Whole = Files * BytesEach, LeftBeside = 8 * Whole;

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

    /// <summary>Gives the room back where the disk has none left: neither bytes nor files.</summary>
    public static void GiveUpIfFull(MachineLayout layout)
    {
        if (!Directory.Exists(layout.ReserveFolder)) return;
        var probe = Path.Combine(layout.StateFolder, ".probe");
        try
        {
            Fill(probe, Whole / 2);
        }
        catch (Exception fault) when (IoProblems.IsExpected(fault))
        {
            GiveUp(layout);
        }
        finally
        {
            Remove(() => File.Delete(probe));
        }
    }

    private static void GiveUp(MachineLayout layout) => Remove(() => Directory.Delete(layout.ReserveFolder, recursive: true));

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
            // What cannot be removed is told by the run, which will fail for the same reason.
        }
    }
}
