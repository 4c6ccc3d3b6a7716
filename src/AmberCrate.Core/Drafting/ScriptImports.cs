namespace AmberCrate.Core.Drafting;

/// <summary>
/// Follows what the started scripts of a package import, from module to module inside the package, and says what they import
/// that is not in it. Modules of the package that nothing started reaches count for nothing.
/// </summary>
internal sealed class ScriptImports
{
    private readonly Dictionary<string, List<PackedScript>> _byModule = new(StringComparer.Ordinal);
    private readonly HashSet<string> _extensions = new(StringComparer.Ordinal);

    /// <summary>Follows the imports.</summary>
    /// <param name="contents">The package.</param>
    public ScriptImports(PackageContents contents)
    {
        foreach (var script in contents.Scripts)
        {
            // Imports may name a module by any end of its path: the folders that Python will search are not in the package.
            foreach (var name in NamesOf(script.Path)) Add(name, script);
        }

        foreach (var elf in contents.Elves.Where(elf => !elf.IsProgram)) _extensions.Add(elf.Name.Split('.')[0]);
        var waiting = new Queue<PackedScript>(contents.Scripts.Where(script => script.Interpreter is not null));
        foreach (var named in contents.Scripts.Where(script => script.Interpreter is not null).SelectMany(script => script.Named))
        {
            foreach (var script in contents.Scripts.Where(
                script => named.EndsWith('/' + script.Path, StringComparison.Ordinal))) waiting.Enqueue(script);
        }

        while (waiting.TryDequeue(out var script))
        {
            if (!Reached.Add(script)) continue;
            foreach (var import in script.Imports)
            {
                foreach (var found in Follow(script, import)) waiting.Enqueue(found);
            }
        }
    }

    /// <summary>The scripts that are started, and the modules that they reach.</summary>
    public HashSet<PackedScript> Reached { get; } = [];

    /// <summary>What they import that neither is in the package nor comes with the interpreter: interpreter and module.</summary>
    public SortedSet<(string Interpreter, string Module)> Outside { get; } = [];

    private void Add(string name, PackedScript script)
    {
        if (!_byModule.TryGetValue(name, out var scripts)) _byModule[name] = scripts = [];
        scripts.Add(script);
    }

    private static IEnumerable<string> NamesOf(string path)
    {
        var ending = path.Length > 3 ? path[^3..] : "";
        if (ending is not (".py" or ".pm")) yield break;
        var parts = path[..^3].Split('/').ToList();
        var between = ending == ".pm" ? "::" : ".";
        if (parts[^1] == "__init__") parts.RemoveAt(parts.Count - 1);
        for (var from = parts.Count - 1; from >= 0; from--) yield return string.Join(between, parts.Skip(from));
    }

    /// <summary>The modules of the package that an import reaches; a module from outside the package is noted.</summary>
    private IEnumerable<PackedScript> Follow(PackedScript script, string import)
    {
        if (ScriptReader.LanguageOf(script.Interpreter?.Split('/')[^1], script.Path) == "perl")
        {
            if (_byModule.GetValueOrDefault(import) is { } own) return own;
            Outside.Add(("perl", import));
            return [];
        }

        var (module, name) = import.Split(':') is [var from, var one] ? (from, one) : (import, null);
        if (module.StartsWith('.'))
        {
            var inside = module.TrimStart('.');
            return Modules(inside.Length == 0 ? name ?? "" : inside, name);
        }

        if (_byModule.ContainsKey(module.Split('.')[0]) || _byModule.ContainsKey(module)) return Modules(module, name);
        if (PythonModules.ComesWithPython(module) || module.Length == 0 || _extensions.Contains(module.Split('.')[^1])) return [];
        Outside.Add(("python3", module == "gi.repository" ? "gi" : module));
        return [];
    }

    /// <summary>A module with the packages that it is in, and the module of a name in it if that is one.</summary>
    private IEnumerable<PackedScript> Modules(string module, string? name)
    {
        var parts = module.Split('.');
        return Enumerable.Range(1, parts.Length).Select(count => string.Join('.', parts.Take(count)))
            .Append(name is null ? "" : $"{module}.{name}")
            .SelectMany(whole => _byModule.GetValueOrDefault(whole) ?? []);
    }
}
