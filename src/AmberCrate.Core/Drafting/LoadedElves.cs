namespace AmberCrate.Core.Drafting;

/// <summary>The programs of a package with those of its own libraries that they load, and what they ask others for.</summary>
internal sealed class LoadedElves
{
    private readonly PackageContents _contents;
    private readonly List<PackedElf> _loaded = [];
    private readonly List<(string Library, PackedElf By)> _outside = [];

    /// <summary>Follows what the programs load.</summary>
    /// <param name="contents">The package.</param>
    public LoadedElves(PackageContents contents)
    {
        _contents = contents;
        var links = contents.Files.Where(file => file.IsLink).Select(file => file.Name).ToHashSet(StringComparer.Ordinal);

        // The extensions of an interpreter are loaded by its scripts.
        var isScripted = contents.Scripts.Any(script => script.Interpreter is not null);
        var waiting = new Queue<PackedElf>(contents.Elves.Where(elf => elf.IsProgram
            || (isScripted && elf.Path.Contains("python3", StringComparison.Ordinal))));
        var seen = new HashSet<PackedElf>();
        while (waiting.TryDequeue(out var elf))
        {
            if (!seen.Add(elf)) continue;
            _loaded.Add(elf);
            foreach (var library in elf.Needed)
            {
                var own = FindOwn(library, links.Contains(library)).ToList();
                own.ForEach(waiting.Enqueue);
                if (own.Count == 0 && !links.Contains(library)) _outside.Add((library, elf));
            }
        }
    }

    /// <summary>The programs, and the own libraries that they load, directly or not.</summary>
    public IReadOnlyList<PackedElf> Loaded => _loaded;

    /// <summary>The libraries that the package does not have, each with who asks for it.</summary>
    public IReadOnlyList<(string Library, PackedElf By)> Outside => _outside;

    /// <summary>
    /// The own libraries of a name: a link <c>libgauze.so.2</c> leads to a file of the same library, such as
    /// <c>libgauze.so.2.1</c> or <c>libgauze.so.1.9.4</c>.
    /// </summary>
    private IEnumerable<PackedElf> FindOwn(string library, bool isLink)
    {
        const string ending = ".so";
        var at = library.IndexOf(ending, StringComparison.Ordinal);
        var stem = isLink && at > 0 ? library[..(at + ending.Length)] : null;
        return _contents.Elves.Where(elf => !elf.IsProgram
            && (elf.Name == library || (stem is not null && elf.Name.StartsWith(stem, StringComparison.Ordinal))));
    }
}
