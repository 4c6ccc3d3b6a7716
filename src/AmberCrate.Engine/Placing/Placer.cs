using System.Security.Cryptography;
using System.Text;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Running;

namespace AmberCrate.Engine.Placing;

/// <summary>Places what belongs outside the shelf, and takes it away again. What is not ours is neither overwritten nor removed.</summary>
public sealed class Placer(MachineLayout layout)
{
    private const UnixFileMode PlainMode = UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.GroupRead | UnixFileMode.OtherRead;
    private const UnixFileMode AnyExecute = UnixFileMode.UserExecute | UnixFileMode.GroupExecute | UnixFileMode.OtherExecute;

    /// <summary>The list of things a release places, with their digests, once its files are in <paramref name="shelfFolder"/>.</summary>
    public IReadOnlyList<PlacedItem> List(AppCard card, Release release, string shelfFolder)
    {
        var items = PlacementList.Of(card, release, name => layout.PathOf(PlaceKind.Command, name), path => File.ReadAllText(InShelf(shelfFolder, path)));
        return [.. items.Select(item => item.Kind == PlaceKind.Command ? item : item with { Sha256 = Digest(Bytes(item, shelfFolder)) })];
    }

    /// <summary>Refuses where something that is not this app's stands in the way.</summary>
    /// <param name="items">What is to be placed.</param>
    /// <param name="installed">The app as it is now; null where it is not installed.</param>
    /// <param name="others">The other installed apps, to name the owner.</param>
    public void RequireFreeWay(IEnumerable<PlacedItem> items, InstalledApp? installed, IEnumerable<InstalledApp> others)
    {
        foreach (var item in items)
        {
            var path = layout.PathOf(item.Kind, item.Name);
            var ours = installed?.Placed.FirstOrDefault(item.IsAt);
            if (!Exists(path) || (ours is not null && IsAsPlaced(installed!, ours))) continue;
            var owner = others.FirstOrDefault(app => app.Placed.Any(item.IsAt));
            throw new Problem(
                ProblemCode.Refused,
                $"{path} is in the way",
                ours is not null ? "it has been changed since it was placed" : owner is not null ? $"it belongs to {owner.Id}" : "it was not placed by acrate",
                owner is not null ? $"acrate uninstall {owner.Id}, or leave this app out" : "move it away, then run the command again").ToException();
        }
    }

    /// <summary>Places the things of an app, each by write-then-rename.</summary>
    public void Place(InstalledApp app)
    {
        foreach (var item in app.Placed)
        {
            var path = layout.PathOf(item.Kind, item.Name);
            if (item.Kind == PlaceKind.Command) AtomicFile.Link(path, LinkTarget(app, item));
            else AtomicFile.Write(path, Bytes(item, Path.Combine(layout.ShelfOf(app.Id), app.ShelfName)), PlainMode);
        }
    }

    /// <summary>Takes away what one state of an app has placed and another has not. What a person has since changed stays.</summary>
    public void TakeAway(InstalledApp app, InstalledApp? stays)
    {
        foreach (var item in app.Placed.Where(item => stays?.Placed.Any(item.IsAt) != true))
        {
            var path = layout.PathOf(item.Kind, item.Name);
            if (Exists(path) && IsAsPlaced(app, item)) File.Delete(path);
        }
    }

    /// <summary>Removes what a process that died left beside an app's things.</summary>
    public void DropLeftovers(InstalledApp app)
    {
        foreach (var path in app.Placed.Select(item => layout.PathOf(item.Kind, item.Name)).Append(layout.FrontOf(app.Id))) AtomicFile.DropLeftovers(path);
    }

    /// <summary>What is placed and not as it should be, in words; empty when all is well.</summary>
    public IEnumerable<string> Faults(InstalledApp app)
    {
        foreach (var item in app.Placed)
        {
            var path = layout.PathOf(item.Kind, item.Name);
            if (!Exists(path)) yield return $"{path} is missing";
            else if (!IsAsPlaced(app, item)) yield return $"{path} is not as it was placed";
            else if (item.Kind == PlaceKind.Command && !IsExecutable(path)) yield return $"{path} leads to {item.Source}, which is not an executable file";
        }
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
        File.ResolveLinkTarget(path, returnFinalTarget: true) is FileInfo { Exists: true } file && (file.UnixFileMode & AnyExecute) != 0;

    private static bool Exists(string path) => File.Exists(path) || Directory.Exists(path) || new FileInfo(path).LinkTarget is not null;

    private static Sha256Digest Digest(ReadOnlySpan<byte> bytes) => Sha256Digest.FromBytes(SHA256.HashData(bytes));

    private string LinkTarget(InstalledApp app, PlacedItem item) =>
        Path.GetRelativePath(layout.BinFolder, Path.Combine(layout.FrontOf(app.Id), item.Source!.Text));

    private static byte[] Bytes(PlacedItem item, string shelfFolder) =>
        item.Content is not null ? Encoding.UTF8.GetBytes(item.Content) : File.ReadAllBytes(InShelf(shelfFolder, item.Source!));

    private static string InShelf(string shelfFolder, InsidePath path)
    {
        var file = Path.Combine(shelfFolder, path.Text);
        return File.Exists(file) ? file
            : throw new Problem(ProblemCode.NotVerified, $"the card names {path}, which is not in the artifact", Remedy: "tell the catalogue's keeper").ToException();
    }
}
