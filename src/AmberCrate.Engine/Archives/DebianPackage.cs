using System.Globalization;
using System.Text;
using AmberCrate.Core.Cards;
using AmberCrate.Engine.Decoding;

namespace AmberCrate.Engine.Archives;

/// <summary>
/// Finds the files of a Debian package, after deb(5): an ar archive whose members are <c>debian-binary</c>, a control
/// archive, which holds the scripts and is passed over, and a data archive.
/// </summary>
internal static class DebianPackage
{
    private const int HeaderSize = 60, NameSize = 16, LengthAt = 48, LengthSize = 10;
    private const string DataName = "data.tar";

    /// <summary>The data archive of a package.</summary>
    /// <param name="package">The package, at its beginning.</param>
    /// <returns>How the archive is compressed, null for not at all; and its bytes.</returns>
    /// <exception cref="InvalidDataException">It is not a package of this format.</exception>
    public static (ArtifactFormat? Format, Stream Data) Open(Stream package)
    {
        var magic = new byte[8];
        if (package.ReadAtLeast(magic, magic.Length, throwOnEndOfStream: false) < magic.Length
            || !"!<arch>\n"u8.SequenceEqual(magic)) throw new InvalidDataException("it is not a Debian package");
        var header = new byte[HeaderSize];
        for (var isFirst = true; ; isFirst = false)
        {
            if (package.ReadAtLeast(header, HeaderSize, throwOnEndOfStream: false) < HeaderSize)
                throw new InvalidDataException("the package has no data archive");
            var name = Encoding.ASCII.GetString(header, 0, NameSize).TrimEnd(' ', '/');
            if (!"`\n"u8.SequenceEqual(header.AsSpan(HeaderSize - 2)) || !long.TryParse(
                Encoding.ASCII.GetString(header, LengthAt, LengthSize).Trim(), NumberStyles.None, CultureInfo.InvariantCulture,
                out var length))
                throw new InvalidDataException("a member of the package has no proper header");
            if (isFirst && name != "debian-binary") throw new InvalidDataException("it is not a Debian package");
            if (name.StartsWith(DataName, StringComparison.Ordinal))
                return (FormatOf(name[DataName.Length..]), new PartStream(package, length));
            if (name == "debian-binary") RequireVersion(package, length);
            else Pass(package, length);
            if (length % 2 != 0) Pass(package, 1);
        }
    }

    private static void RequireVersion(Stream package, long length)
    {
        var text = new byte[Math.Min(length, 16)];
        package.ReadExactly(text);
        Pass(package, length - text.Length);
        if (!text.AsSpan().StartsWith("2."u8)) throw new InvalidDataException(
            $"it is a Debian package of a version that is not known here, \"{Encoding.ASCII.GetString(text).Trim()}\"");
    }

    private static void Pass(Stream package, long length)
    {
        if (length > package.Length - package.Position)
            throw new EndOfStreamException("the package ends in the middle of a member");
        package.Seek(length, SeekOrigin.Current);
    }

    private static ArtifactFormat? FormatOf(string ending) => ending switch
    {
        "" => null,
        ".gz" => ArtifactFormat.TarGz,
        ".xz" => ArtifactFormat.TarXz,
        ".zst" => ArtifactFormat.TarZst,
        ".bz2" => ArtifactFormat.TarBz2,
        _ => throw new InvalidDataException(
            $"its data archive is compressed in a way that is not known here, \"{DataName}{ending}\""),
    };
}
