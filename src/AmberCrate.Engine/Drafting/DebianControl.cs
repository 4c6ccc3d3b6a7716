using System.Globalization;
using System.Text;
using AmberCrate.Core.Cards;
using AmberCrate.Engine.Archives;
using AmberCrate.Engine.Decoding;

namespace AmberCrate.Engine.Drafting;

/// <summary>
/// Reads the control fields of a Debian package, after deb(5) and deb-control(5). None of its scripts is looked at.
/// </summary>
internal static class DebianControl
{
    private const int HeaderSize = 60, NameSize = 16, LengthAt = 48, LengthSize = 10;
    private const long MostControl = 1 << 20, MostArchive = 16 << 20;

    /// <summary>The fields by name; empty where the package has none that can be read.</summary>
    /// <param name="package">The package, at its beginning.</param>
    public static IReadOnlyDictionary<string, string> Read(Stream package)
    {
        package.Position = 8;
        var header = new byte[HeaderSize];
        while (package.ReadAtLeast(header, HeaderSize, throwOnEndOfStream: false) == HeaderSize)
        {
            var name = Encoding.ASCII.GetString(header, 0, NameSize).TrimEnd(' ', '/');
            if (!long.TryParse(
                Encoding.ASCII.GetString(header, LengthAt, LengthSize).Trim(), NumberStyles.None, CultureInfo.InvariantCulture,
                out var length) || length > package.Length - package.Position) break;
            if (name.StartsWith("control.tar", StringComparison.Ordinal))
                return length <= MostArchive ? OfArchive(new PartStream(package, length), name["control.tar".Length..]) : Nothing;
            package.Seek(length + (length % 2), SeekOrigin.Current);
        }

        return Nothing;
    }

    private static IReadOnlyDictionary<string, string> Nothing => new Dictionary<string, string>();

    private static IReadOnlyDictionary<string, string> OfArchive(Stream archive, string ending)
    {
        ArtifactFormat? format = ending switch
        {
            ".gz" => ArtifactFormat.TarGz,
            ".xz" => ArtifactFormat.TarXz,
            ".zst" => ArtifactFormat.TarZst,
            _ => null,
        };
        using var tar = format is { } packed ? ArchiveFormats.Decompress(packed, archive) : archive;
        foreach (var entry in TarEntries.Read(tar))
        {
            if (entry.Name is not ("./control" or "control") || entry.Content is null) continue;
            var text = new byte[MostControl];
            var length = entry.Content.ReadAtLeast(text, text.Length, throwOnEndOfStream: false);
            return Fields(Encoding.UTF8.GetString(text, 0, length));
        }

        return Nothing;
    }

    private static Dictionary<string, string> Fields(string text)
    {
        var fields = new Dictionary<string, string>(StringComparer.OrdinalIgnoreCase);
        string? last = null;
        foreach (var line in text.Split('\n'))
        {
            if (line.StartsWith(' ') && last is not null) fields[last] += "\n" + line[1..];
            else if (line.IndexOf(':', StringComparison.Ordinal) is > 0 and var at)
            {
                last = line[..at];
                fields[last] = line[(at + 1)..].Trim();
            }
        }

        return fields;
    }
}
