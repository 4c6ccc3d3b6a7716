namespace AmberCrate.Engine.KitFiles;

/// <summary>
/// The files of a kit that was split for sticks that take no large files: NAME.amberkit, NAME.amberkit.2, and so on.
/// </summary>
public static class KitParts
{
    /// <summary>The file of a part.</summary>
    /// <param name="kit">The kit.</param>
    /// <param name="number">The part, from 1.</param>
    public static string FileOf(string kit, int number) => number == 1 ? kit : $"{kit}.{number}";

    /// <summary>The parts of a kit that are there, in order; the first is the kit itself.</summary>
    public static IReadOnlyList<string> ListFor(string kit)
    {
        var parts = new List<string> { kit };
        for (var number = 2; File.Exists(FileOf(kit, number)); number++) parts.Add(FileOf(kit, number));
        return parts;
    }

    /// <summary>Whether a part is missing between others, or which; null if none is known to be.</summary>
    internal static int? MissingAmong(string kit)
    {
        var count = ListFor(kit).Count;
        var folder = Path.GetDirectoryName(Path.GetFullPath(kit))!;
        var beyond = Directory.EnumerateFiles(folder, $"{Path.GetFileName(kit)}.*")
            .Any(file => int.TryParse(file[(file.LastIndexOf('.') + 1)..], out var number) && number > count);
        return beyond ? count + 1 : null;
    }
}
