using System.Reflection;

namespace AmberCrate.Core.Drafting;

/// <summary>The modules that every installation of Python 3 brings.</summary>
internal static class PythonModules
{
    private const string Resource = "AmberCrate.Core.python-modules.txt";

    private static readonly Lazy<HashSet<string>> Known = new(Read);

    /// <summary>Whether a module, or the package that it is in, comes with Python.</summary>
    public static bool ComesWithPython(string module) =>
        module.StartsWith('_') || Known.Value.Contains(module.Split('.')[0]);

    private static HashSet<string> Read()
    {
        using var stream = Assembly.GetExecutingAssembly().GetManifestResourceStream(Resource)!;
        using var reader = new StreamReader(stream);
        return [.. reader.ReadToEnd().Split('\n', StringSplitOptions.RemoveEmptyEntries).Where(line => !line.StartsWith('#'))];
    }
}
