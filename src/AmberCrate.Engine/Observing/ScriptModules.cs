using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Observing;

/// <summary>
/// Finds the modules that the interpreters of a system have, in the folders where Python (its module site) and Perl (its @INC)
/// look on the usual distributions.
/// </summary>
/// <param name="root">The root of the system.</param>
internal sealed class ScriptModules(string root)
{
    private readonly Lazy<List<string>> _python = new(() => [.. PythonFolders(root)]);
    private readonly Lazy<List<string>> _perl = new(() => [.. PerlFolders(root)]);

    /// <summary>Whether an interpreter has a module; true for interpreters that are not known here.</summary>
    /// <param name="interpreter">The interpreter.</param>
    /// <param name="module">The module, as its language names it.</param>
    public bool Has(string interpreter, string module) => interpreter switch
    {
        "python3" => HasPython(module.Replace('.', '/')),
        "perl" => _perl.Value.Exists(
            folder => File.Exists(Path.Combine(folder, module.Replace("::", "/", StringComparison.Ordinal) + ".pm"))),
        _ => true,
    };

    private bool HasPython(string path) => _python.Value.Exists(folder =>
    {
        var place = Path.Combine(folder, path);
        if (Directory.Exists(place) || File.Exists(place + ".py")) return true;
        var parent = Path.GetDirectoryName(place)!;
        return Directory.Exists(parent) && Directory.EnumerateFiles(parent, Path.GetFileName(place) + ".*so").Any();
    });

    private static IEnumerable<string> PythonFolders(string root)
    {
        var program = new RootPath(root).Find("/usr/bin/python3") is { } path ? Path.GetFileName(path) : "";
        foreach (var library in (string[])["usr/lib", "usr/lib64", "usr/local/lib", "usr/local/lib64"])
        {
            var folder = Path.Combine(root, library);
            if (!Directory.Exists(folder)) continue;
            yield return Path.Combine(folder, "python3/dist-packages");
            foreach (var version in Directory.EnumerateDirectories(folder, "python3.*")
                .Where(version => !program.Contains('.', StringComparison.Ordinal) || Path.GetFileName(version) == program))
            {
                yield return version;
                foreach (var inner in (string[])["lib-dynload", "site-packages", "dist-packages"])
                    yield return Path.Combine(version, inner);
            }
        }
    }

    private static IEnumerable<string> PerlFolders(string root)
    {
        foreach (var top in (string[])["etc/perl", "usr/share/perl5", "usr/share/perl", "usr/lib/perl5", "usr/lib64/perl5",
            "usr/local/share/perl", "usr/local/share/perl5", "usr/local/lib64/perl5"])
        {
            foreach (var folder in WithInner(Path.Combine(root, top))) yield return folder;
        }

        foreach (var library in (string[])["usr/lib", "usr/local/lib"])
        {
            var folder = Path.Combine(root, library);
            if (!Directory.Exists(folder)) continue;
            foreach (var architecture in Directory.EnumerateDirectories(folder, "*-linux-*"))
            {
                foreach (var name in (string[])["perl", "perl5", "perl-base"])
                {
                    foreach (var found in WithInner(Path.Combine(architecture, name))) yield return found;
                }
            }
        }
    }

    /// <summary>A folder and, one and two folders below it, those of a version or of a vendor.</summary>
    private static IEnumerable<string> WithInner(string folder)
    {
        if (!Directory.Exists(folder)) yield break;
        yield return folder;
        foreach (var inner in Directory.EnumerateDirectories(folder).Where(IsOfPerl))
        {
            yield return inner;
            foreach (var second in Directory.EnumerateDirectories(inner).Where(IsOfPerl)) yield return second;
        }

        static bool IsOfPerl(string path) => Path.GetFileName(path) is { } name
            && (char.IsAsciiDigit(name[0]) || name.EndsWith("_perl", StringComparison.Ordinal));
    }
}
