using System.Reflection;

namespace AmberCrate.Core.Searching;

/// <summary>
/// The words that people use for a type of file: the usual endings of its files, as file-types.txt beside this has them, or
/// else what is telling in its name.
/// </summary>
public static class FileTypes
{
    private const string Resource = "AmberCrate.Core.file-types.txt";
    private static readonly Dictionary<string, string> Endings = Read();

    // What stands in the names of types and tells nothing.
    private static readonly HashSet<string> Empty = new(
        ("x vnd application audio image video text font model message xml zip json compressed file document data ms plain src "
            + "binary multipage generic octet stream mpeg scheme handler content inode directory").Split(' '),
        StringComparer.Ordinal);

    /// <summary>The words for types of file, folded, each once.</summary>
    public static string Collect(IEnumerable<string> types)
    {
        var words = new HashSet<string>(StringComparer.Ordinal);
        foreach (var type in types)
        {
            words.UnionWith(Endings.TryGetValue(type, out var endings)
                ? endings.Split(' ')
                : SearchText.Fold(type[(type.IndexOf('/', StringComparison.Ordinal) + 1)..]).Split(' ').Except(Empty));
        }

        return string.Join(' ', words);
    }

    private static Dictionary<string, string> Read()
    {
        using var stream = Assembly.GetExecutingAssembly().GetManifestResourceStream(Resource)!;
        using var reader = new StreamReader(stream);
        var endings = new Dictionary<string, string>(StringComparer.Ordinal);
        while (reader.ReadLine() is { } line)
        {
            if (line.Split(' ', 2) is [var type, var said] && type[0] != '#') endings.Add(type, said);
        }

        return endings;
    }
}
