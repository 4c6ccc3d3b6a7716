using System.Xml;
using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Observing;

/// <summary>What software says of itself in AppStream's metainfo files: the version of its newest release, by its id.</summary>
/// <param name="folders">The folders for data to look in.</param>
public sealed class ComponentFiles(IReadOnlyList<string> folders)
{
    private const long MostBytes = 4 << 20;
    private static readonly string[] Names = ["metainfo", "appdata"];
    private static readonly XmlReaderSettings Careful = new()
    {
        DtdProcessing = DtdProcessing.Ignore, XmlResolver = null, MaxCharactersInDocument = MostBytes, IgnoreComments = true,
    };

    /// <summary>The names and versions by the ids of components, without <c>.desktop</c>.</summary>
    /// <param name="say">Receives what could not be read.</param>
    public IReadOnlyDictionary<string, (string? Name, string? Version)> Read(Action<string> say)
    {
        var found = new Dictionary<string, (string? Name, string? Version)>(StringComparer.Ordinal);
        foreach (var file in folders.SelectMany(folder => Names.Select(name =>
            Path.Combine(folder, name))).Where(Directory.Exists).SelectMany(folder =>
            Directory.EnumerateFiles(folder, "*.xml").Order(StringComparer.Ordinal)))
        {
            try
            {
                if (ReadOne(file) is not ({ } id, var name, var version)) continue;
                const string ending = ".desktop";
                found.TryAdd(id.EndsWith(ending, StringComparison.Ordinal) ? id[..^ending.Length] : id, (name, version));
            }
            catch (Exception fault) when (fault is IOException or UnauthorizedAccessException || ForeignText.IsOfText(fault))
            {
                say($"{file} is left out: {(fault is IOException ? fault.Message : ForeignText.Words(fault))}");
            }
        }

        return found;
    }

    private static (string? Id, string? Name, string? Version) ReadOne(string file)
    {
        if (SystemCalls.Posix.TypeOf(file) != SystemCalls.Posix.FileType.Regular) throw new IOException("it is no file");
        using var stream = File.OpenRead(file);
        using var xml = XmlReader.Create(stream, Careful);
        string? id = null, name = null, version = null;
        while (xml.Read())
        {
            if (xml.NodeType != XmlNodeType.Element) continue;
            if (xml is { Depth: 1, Name: "id" }) id = xml.ReadElementContentAsString().Trim();
            if (xml is { Depth: 1, Name: "name" } && xml.GetAttribute("xml:lang") is null)
                name ??= xml.ReadElementContentAsString().Trim();
            if (xml is { Depth: 2, Name: "release" }) version ??= xml.GetAttribute("version");
        }

        return (id, name, version);
    }
}
