using System.Text.RegularExpressions;
using AmberCrate.Core.Cards;
using AmberCrate.Engine.Archives;

namespace AmberCrate.Engine.Drafting;

/// <summary>How a vendor's file is packed: told by its first bytes, and by its name where these fit several.</summary>
internal static partial class PackageFormat
{
    /// <summary>A Java archive is a zip archive that is started as it is.</summary>
    public const string JavaEnding = ".jar";

    private static readonly string[] InstallerEndings = [".run", ".bin", ".sh"];

    /// <summary>
    /// Whether a name is that of one part of an archive that was split: <c>app.7z.001</c>, <c>app.z01</c>, <c>app.part1.rar</c>.
    /// </summary>
    public static bool IsVolume(string name) => VolumeName().IsMatch(name);

    [GeneratedRegex(
        @"\.(7z|zip|tar|tar\.\w+|tgz|iso|img)\.[0-9]{3}$|\.[zr][0-9]{2}$|\.part[0-9]+\.rar$",
        RegexOptions.IgnoreCase | RegexOptions.ExplicitCapture | RegexOptions.NonBacktracking)]
    private static partial Regex VolumeName();

    /// <summary>The format of a file.</summary>
    /// <param name="path">The file.</param>
    /// <param name="name">Its name.</param>
    public static ArtifactFormat Recognise(string path, string name)
    {
        var head = new byte[FileSignature.TarMagic + 5];
        using (var file = File.OpenRead(path)) head = head[..file.ReadAtLeast(head, head.Length, throwOnEndOfStream: false)];
        ReadOnlySpan<byte> start = head;
        if (start.StartsWith("!<arch>\n"u8)) return ArtifactFormat.Deb;
        if (start.StartsWith("PK"u8))
            return name.EndsWith(JavaEnding, StringComparison.OrdinalIgnoreCase) ? ArtifactFormat.File : ArtifactFormat.Zip;
        if (start.StartsWith("7z"u8) && head.Length > 3 && head[2] == 0xBC) return ArtifactFormat.SevenZip;
        if (ArchiveFormats.FindCompression(start) is var (archive, program))
            return WithinCompression(path, name, archive, program);
        if (ArchiveFormats.Find(ArtifactFormat.Tar).Signature!.IsIn(start)) return ArtifactFormat.Tar;
        var isElf = head.Length > 3 && head[0] == 0x7F && start[1..].StartsWith("ELF"u8);
        if (isElf && head.Length > 10 && head[8] == 'A' && head[9] == 'I') return ArtifactFormat.AppImage;
        var isInstaller = InstallerEndings.Any(ending => name.EndsWith(ending, StringComparison.OrdinalIgnoreCase));
        if (CompressedProgramFormat.IsProgram(start)) return isInstaller ? ArtifactFormat.Installer : ArtifactFormat.Executable;
        return ArtifactFormat.File;
    }

    /// <summary>
    /// What a compressed file is: an archive, a program, or something else, which is taken as it is. What cannot be decompressed
    /// counts as an archive: unpacking then reports the damage.
    /// </summary>
    private static ArtifactFormat WithinCompression(string path, string name, ArtifactFormat archive, ArtifactFormat program)
    {
        if (TarName().IsMatch(name)) return archive;
        try
        {
            using var file = File.OpenRead(path);
            using var content = ArchiveFormats.Decompress(archive, file);
            var head = new byte[FileSignature.TarMagic + 5];
            ReadOnlySpan<byte> start = head.AsSpan(0, content.ReadAtLeast(head, head.Length, throwOnEndOfStream: false));
            if (start.Length < CompressedProgramFormat.SignatureSize
                || ArchiveFormats.Find(ArtifactFormat.Tar).Signature!.IsIn(start)) return archive;
            return CompressedProgramFormat.IsProgram(start) ? program : ArtifactFormat.File;
        }
        catch (Exception damaged) when (damaged is InvalidDataException or EndOfStreamException)
        {
            return archive;
        }
    }

    [GeneratedRegex(
        @"\.(tar\.\w+|t[gx]z|tbz2?|tzst)$",
        RegexOptions.IgnoreCase | RegexOptions.ExplicitCapture | RegexOptions.NonBacktracking)]
    private static partial Regex TarName();
}
