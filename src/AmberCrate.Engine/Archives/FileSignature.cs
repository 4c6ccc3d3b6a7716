using AmberCrate.Core.Cards;

namespace AmberCrate.Engine.Archives;

/// <summary>Tells by the first bytes of a file what it is, to say so where a card names the wrong form.</summary>
internal static class FileSignature
{
    private static readonly (string Word, byte[] Bytes, ArtifactForm[] Forms)[] Known =
    [
        ("a gzip file", [0x1F, 0x8B], [ArtifactForm.TarGz]),
        ("a Zstandard file", [0x28, 0xB5, 0x2F, 0xFD], [ArtifactForm.TarZst]),
        ("an xz file", [0xFD, (byte)'7', (byte)'z', (byte)'X', (byte)'Z', 0], [ArtifactForm.TarXz]),
        ("a bzip2 file", [(byte)'B', (byte)'Z', (byte)'h'], [ArtifactForm.TarBz2]),
        ("a zip file", [(byte)'P', (byte)'K', 3, 4], [ArtifactForm.Zip]),
        ("a 7z file", [(byte)'7', (byte)'z', 0xBC, 0xAF], [ArtifactForm.SevenZip]),
        ("a Debian package", [.. "!<arch>\n"u8], [ArtifactForm.Deb]),
        ("a program", [0x7F, (byte)'E', (byte)'L', (byte)'F'], [ArtifactForm.AppImage, ArtifactForm.Executable]),
        ("a script", [(byte)'#', (byte)'!'], [ArtifactForm.Executable]),
        ("a web page", [.. "<!DOCTYPE"u8], []),
        ("a web page", [.. "<html"u8], []),
    ];

    /// <summary>What a file is that is not of a form; null where it is, or cannot be told.</summary>
    public static string? OtherThan(ArtifactForm form, string path)
    {
        var start = new byte[16];
        using var file = File.OpenRead(path);
        var length = file.ReadAtLeast(start, start.Length, throwOnEndOfStream: false);
        return Known.FirstOrDefault(known => start.AsSpan(0, length).StartsWith(known.Bytes)) is { Word: not null } found && !found.Forms.Contains(form) ? found.Word : null;
    }
}
