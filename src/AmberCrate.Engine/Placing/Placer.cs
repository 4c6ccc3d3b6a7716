using System.Security.Cryptography;
using System.Text;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Observing;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Placing;

/// <summary>
/// Places what belongs outside the shelf, and removes it again. Foreign files are neither overwritten nor removed.
/// </summary>
/// <param name="layout">Where everything lies.</param>
/// <param name="packages">Says what belongs to the system.</param>
/// <param name="programs">Says whether programs can start.</param>
public sealed class Placer(MachineLayout layout, SystemPackages packages, ProgramCheck programs)
{
    private const UnixFileMode PlainMode =
        UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.GroupRead | UnixFileMode.OtherRead;
    private const long MostPlaced = 64 << 20;
    private const int MostNamed = 3;
    private const UnixFileMode AnyExecute = UnixFileMode.UserExecute | UnixFileMode.GroupExecute | UnixFileMode.OtherExecute;

    /// <summary>
    /// The list of things a release places, with their digests, once its files are in <paramref name="shelfFolder"/>.
    /// </summary>
    public IReadOnlyList<PlacedItem> List(AppCard card, Release release, string shelfFolder)
    {
        var items = PlacementList.List(
            card, release, name => layout.PathOf(PlaceKind.Command, name),
            path => Encoding.UTF8.GetString(InShelf(shelfFolder, path)));
        return [.. items.Select(
            item => item.Kind == PlaceKind.Command ? item : item with { Sha256 = Digest(Bytes(item, shelfFolder)) })];
    }

    /// <summary>Refuses where something that is not this app's stands in the way.</summary>
    /// <param name="app">The app as it shall be.</param>
    /// <param name="wasThere">Whether it has been installed before without being on record: then what is just as it shall be is
    /// its own.</param>
    /// <param name="installed">The app as it is now; null where it is not installed.</param>
    /// <param name="others">The other installed apps, to name the owner.</param>
    /// <exception cref="ProblemException">Something does; the owner is named where it is known.</exception>
    public void RequireFreeWay(InstalledApp app, bool wasThere, InstalledApp? installed, IEnumerable<InstalledApp> others)
    {
        foreach (var item in app.Placed)
        {
            if (wasThere && IsAsPlaced(app, item) && !others.Any(other => other.Placed.Any(item.IsAt))) continue;
            if (InTheWay(app.Id, item.Kind, item.Name, installed, others) is { } obstacle) throw obstacle.ToException();
        }
    }

    /// <summary>What is in the way of a thing that shall be placed; null if nothing is.</summary>
    /// <param name="app">The app that it belongs to.</param>
    /// <param name="kind">The folder it is to be placed in.</param>
    /// <param name="name">Its path inside that folder.</param>
    /// <param name="installed">The app as it is now; null where it is not installed.</param>
    /// <param name="others">The other installed apps, to name the owner.</param>
    public Problem? InTheWay(
        AppId app, PlaceKind kind, string name, InstalledApp? installed, IEnumerable<InstalledApp> others)
    {
        var path = layout.PathOf(kind, name);
        if (!Posix.IsThere(path) || installed?.Placed.Any(IsHere) == true) return null;
        var owner = others.FirstOrDefault(other => other.Placed.Any(IsHere));
        if (owner is not null)
            return Blocked($"it belongs to {owner.Id}",
                $"{NextCommand.Create("uninstall", owner.Id.Text)}, or leave this app out");
        return packages.OwnerOf(path) is { } package
            ? Blocked($"it belongs to the system's package {package}", $"remove the package {package}, or leave this app out")
            : Blocked("it was not placed by acrate", "move it away, then run the command again");

        bool IsHere(PlacedItem item) => item.Kind == kind && item.Name == name;

        Problem Blocked(string why, Advice remedy) => new(ProblemCode.Refused, $"{path} is in the way of {app}", why, remedy);
    }

    /// <summary>
    /// The paths of what an app has placed and a user has since changed. It is left as it is, whatever becomes of the app.
    /// </summary>
    public IReadOnlyList<string> Edited(InstalledApp app) =>
        [.. app.Placed.Where(item => Posix.IsThere(layout.PathOf(item.Kind, item.Name)) && !IsAsPlaced(app, item)
                && VersionAt(app, item) is null)
            .Select(item => layout.PathOf(item.Kind, item.Name))];

    /// <summary>
    /// The other version of an app that placed what is at the path of a thing; null if none did. After a run that was cut off,
    /// things of two versions may be there. They are ours, and not the user's.
    /// </summary>
    public InstalledApp? VersionAt(InstalledApp app, PlacedItem item) => new Shelf(layout).NotesOf(app.Id)
        .FirstOrDefault(other => other.ShelfName != app.ShelfName
            && other.Placed.FirstOrDefault(item.IsAt) is { } theirs && IsAsPlaced(other, theirs));

    /// <summary>
    /// Places the things of an app, each by write-then-rename. What stands in the place of one and is as neither state has it
    /// is someone's, and left.
    /// </summary>
    /// <param name="app">The app as it shall be.</param>
    /// <param name="from">The app as it is; null where it is not there.</param>
    public void Place(InstalledApp app, InstalledApp? from)
    {
        foreach (var item in app.Placed)
        {
            var path = layout.PathOf(item.Kind, item.Name);
            if (Posix.IsThere(path) && (IsAsPlaced(app, item) || !IsOurs(from, item, app))) continue;
            if (item.Kind == PlaceKind.Command) AtomicFile.Link(path, LinkTarget(app, item));
            else AtomicFile.Write(path, Bytes(item, Path.Combine(layout.ShelfOf(app.Id), app.ShelfName)), PlainMode);
        }
    }

    /// <summary>
    /// Takes away what one state of an app has placed and another has not. What a user has since changed stays.
    /// </summary>
    public void TakeAway(InstalledApp app, InstalledApp? stays)
    {
        AtomicFile.Remove(app.Placed
            .Where(item => stays?.Placed.Any(item.IsAt) != true)
            .Where(item => Posix.IsThere(layout.PathOf(item.Kind, item.Name)) && IsOurs(app, item, app))
            .Select(item => layout.PathOf(item.Kind, item.Name)));
    }

    /// <summary>Whether what is at the path of a thing was placed by one state of an app, or by another version of it.</summary>
    private bool IsOurs(InstalledApp? state, PlacedItem item, InstalledApp app) =>
        (state?.Placed.FirstOrDefault(item.IsAt) is { } theirs && IsAsPlaced(state, theirs)) || VersionAt(app, item) is not null;

    /// <summary>Removes what a process that died left beside an app's things.</summary>
    public void DropLeftovers(InstalledApp app)
    {
        foreach (var path in app.Placed.Select(item => layout.PathOf(item.Kind, item.Name)).Append(layout.FrontOf(app.Id)))
            AtomicFile.DropLeftovers(path);
    }

    /// <summary>What is placed and not as it should be, in words; empty when all is well.</summary>
    /// <param name="app">The app.</param>
    /// <param name="edited">The paths that a user has changed.</param>
    public IEnumerable<string> Faults(InstalledApp app, IReadOnlyList<string> edited)
    {
        foreach (var item in app.Placed)
        {
            var path = layout.PathOf(item.Kind, item.Name);
            if (edited.Contains(path)) continue;
            if (!Posix.IsThere(path)) yield return $"{path} is missing";
            else if (!IsAsPlaced(app, item)) yield return $"{path} is not as it was placed";
            else if (item.Kind == PlaceKind.Command && !IsExecutable(path))
                yield return $"{path} leads to {item.Source}, which is not an executable file";
            else if (item.Kind != PlaceKind.Command && item.Content is { } text)
                foreach (var fault in DesktopEntryText.Faults(text)) yield return $"{path}: {fault}";
        }
    }

    /// <summary>What this machine lacks that the commands of an app need, in words; empty if nothing is seen to be
    /// missing.</summary>
    /// <param name="app">The app.</param>
    public IEnumerable<string> Lacking(InstalledApp app) => app.Placed
        .Where(item => item.Kind == PlaceKind.Command)
        .Select(item => (item.Source, Path: layout.PathOf(item.Kind, item.Name)))
        .Where(command => IsExecutable(command.Path))
        .SelectMany(command => programs.Faults(command.Source!.Text, command.Path));

    /// <summary>What a user should know of the commands of an app, in words; empty for nothing.</summary>
    public IEnumerable<string> Remarks(InstalledApp app)
    {
        var folder = Path.Combine(layout.ShelfOf(app.Id), app.ShelfName);
        foreach (var item in app.Placed.Where(item => item.Kind == PlaceKind.Command))
        {
            var displaced = programs.Displaced(layout.PathOf(item.Kind, item.Name), folder).Take(MostNamed).ToList();
            if (displaced.Count > 0)
                yield return $"not sure that {item.Name} starts: it names {string.Join(", ", displaced)}, "
                    + "which is in its own folder and not on this machine";
        }
    }

    /// <summary>What of a system's package only works as a part of the system, in words; empty for none.</summary>
    /// <param name="app">The app, whose version is on the shelf.</param>
    public IEnumerable<string> PartsOfSystem(InstalledApp app)
    {
        var missing = programs.Parts.FindMissing(Path.Combine(layout.ShelfOf(app.Id), app.ShelfName)).Take(MostNamed).ToList();
        if (missing.Count > 0)
            yield return $"not sure that all of it works: it brings {string.Join(" and ", missing)}, which an app "
                + "cannot add to the system";
    }

    /// <summary>
    /// The links of a system's package that lead to something which is neither in it nor on this machine, in words; empty for
    /// none.
    /// </summary>
    /// <param name="app">The app, whose version is on the shelf.</param>
    public IEnumerable<string> LinksToNothing(InstalledApp app)
    {
        var folder = Path.Combine(layout.ShelfOf(app.Id), app.ShelfName);
        var lost = FolderTree.In(folder)
            .Where(found => found.LinkTarget is not null && !Posix.IsReachable(found.FullName))
            .Select(found => Path.GetRelativePath(folder, found.FullName))
            .Order(StringComparer.Ordinal).Take(MostNamed + 1).ToList();
        if (lost.Count == 0) yield break;
        var more = lost.Count > MostNamed ? " and others" : "";
        yield return $"links in it lead to missing files: {string.Join(", ", lost.Take(MostNamed))}{more}";
    }

    /// <summary>
    /// An app with the entries that a folder needs which was moved: they name the folder for commands where it was before. Null
    /// where all is well.
    /// </summary>
    public InstalledApp? PutRight(InstalledApp app)
    {
        var placed = app.Placed.Select(item => Moved(app, item)).ToList();
        return placed.SequenceEqual(app.Placed) ? null : app with { Placed = placed };
    }

    private PlacedItem Moved(InstalledApp app, PlacedItem item)
    {
        if (item.Content is not { } text) return item;
        foreach (var command in app.Placed.Where(other => other.Kind == PlaceKind.Command))
        {
            if (DesktopEntryText.FolderOf(text, command.Name) is not { } before || before == layout.BinFolder) continue;
            var content = DesktopEntryText.WithFolder(text, before, layout.BinFolder);
            return item with { Content = content, Sha256 = Digest(Encoding.UTF8.GetBytes(content)) };
        }

        return item;
    }

    /// <summary>Whether a thing stands where it was placed, unchanged.</summary>
    public bool IsAsPlaced(InstalledApp app, PlacedItem item)
    {
        var path = layout.PathOf(item.Kind, item.Name);
        var link = new FileInfo(path).LinkTarget;
        if (item.Kind == PlaceKind.Command) return link == LinkTarget(app, item);
        return link is null && File.Exists(path) && item.Sha256 == Digest(File.ReadAllBytes(path));
    }

    private static bool IsExecutable(string path) =>
        File.ResolveLinkTarget(path, returnFinalTarget: true) is FileInfo { Exists: true } file
            && (file.UnixFileMode & AnyExecute) != 0;

    private static Sha256Digest Digest(ReadOnlySpan<byte> bytes) => Sha256Digest.FromBytes(SHA256.HashData(bytes));

    private string LinkTarget(InstalledApp app, PlacedItem item) =>
        Path.GetRelativePath(layout.BinFolder, Path.Combine(layout.FrontOf(app.Id), item.Source!.Text));

    private static byte[] Bytes(PlacedItem item, string shelfFolder) =>
        item.Content is not null ? Encoding.UTF8.GetBytes(item.Content) : InShelf(shelfFolder, item.Source!);

    /// <summary>
    /// The content of a file in a folder that an artifact has filled: neither a link of it is followed, nor anything read that is
    /// no file.
    /// </summary>
    private static byte[] InShelf(string shelfFolder, InsidePath path)
    {
        if (!Posix.IsThere(Path.Combine(shelfFolder, path.Text)))
            throw new Problem(
                ProblemCode.NotVerified, $"the card names {path}, which is not in the artifact",
                remedy: "tell the catalogue's maintainer").ToException();
        try
        {
            using var file = Posix.OpenBeneath(shelfFolder, path.Text);
            var length = RandomAccess.GetLength(file);
            if (length > MostPlaced) throw new IOException($"it has more than {MostPlaced >> 20} MiB");
            var content = new byte[length];
            for (var read = 0; read < length;)
            {
                var more = RandomAccess.Read(file, content.AsSpan(read), read);
                if (more == 0) throw new IOException("it has become shorter");
                read += more;
            }

            return content;
        }
        catch (IOException fault)
        {
            throw new Problem(
                ProblemCode.NotVerified, $"{path}, which the card places, is not a file that can be placed", fault.Message,
                "tell the catalogue's maintainer").ToException(fault);
        }
    }
}
