using AmberCrate.Core.Machine;
using AmberCrate.Engine.Archives;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Placing;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Runs;

/// <summary>
/// Remembers that the desktop's own lists have to be written again, from before anything is placed until it is done: a run that
/// is killed leaves that to the next.
/// </summary>
/// <param name="layout">Where everything lies.</param>
/// <param name="caches">The lists.</param>
internal sealed class DesktopCacheJournal(MachineLayout layout, DesktopCaches caches)
{
    private string File => Path.Combine(layout.StateFolder, "desktop-lists");

    /// <summary>Notes what will be placed or taken away, where there are programs that keep lists of it.</summary>
    public void Note(IEnumerable<PlaceKind> kinds)
    {
        List<PlaceKind> listed = [.. kinds.Distinct().Order()];
        if (caches.ProgramsFor(listed).Count == 0) return;
        AtomicFile.Write(
            File, System.Text.Encoding.UTF8.GetBytes(string.Join('\n', listed.Select(PlaceWords.Kinds.WordOf))),
            FolderFiller.PlainMode);
    }

    /// <summary>Has the lists written again that an earlier run has left.</summary>
    public void Catch(Action<string> say)
    {
        AtomicFile.DropLeftovers(File);
        if (!System.IO.File.Exists(File)) return;
        var kinds = Posix.Lines(File).Where(word => Enum.GetValues<PlaceKind>().Any(kind =>
            PlaceWords.Kinds.WordOf(kind) == word));
        End(kinds.Select(PlaceWords.Kinds.Read), say);
    }

    /// <summary>Has the lists written again.</summary>
    /// <param name="kinds">The kinds of what was placed or taken away.</param>
    /// <param name="say">Receives what was run, and its result.</param>
    public void End(IEnumerable<PlaceKind> kinds, Action<string> say)
    {
        caches.Refresh(kinds, say);
        if (System.IO.File.Exists(File)) AtomicFile.Remove([File]);
    }
}
