using AmberCrate.Core.Values;

namespace AmberCrate.Core.Cards;

/// <summary>How the files of a release are packed.</summary>
public enum ArtifactFormat
{
    /// <summary>A tar archive that is not compressed.</summary>
    Tar,

    /// <summary>A tar archive, compressed with gzip.</summary>
    TarGz,

    /// <summary>A tar archive, compressed with Zstandard.</summary>
    TarZst,

    /// <summary>A tar archive, compressed with xz.</summary>
    TarXz,

    /// <summary>A tar archive, compressed with bzip2.</summary>
    TarBz2,

    /// <summary>A zip archive.</summary>
    Zip,

    /// <summary>A 7z archive.</summary>
    SevenZip,

    /// <summary>A Debian package; only its files are taken, and none of its scripts runs.</summary>
    Deb,

    /// <summary>An AppImage, which is kept whole.</summary>
    AppImage,

    /// <summary>A single executable file.</summary>
    Executable,

    /// <summary>A single program, compressed with gzip.</summary>
    ProgramGz,

    /// <summary>A single program, compressed with Zstandard.</summary>
    ProgramZst,

    /// <summary>A single program, compressed with xz.</summary>
    ProgramXz,

    /// <summary>A single program, compressed with bzip2.</summary>
    ProgramBz2,

    /// <summary>A program of the vendor that unpacks itself into a folder; it is run with the card's arguments.</summary>
    Installer,

    /// <summary>A single file that is no program, such as a font.</summary>
    File,
}

/// <content>The words for <see cref="ArtifactFormat"/>.</content>
public static partial class CardWords
{
    /// <summary>Formats of artifacts, by the usual endings of such files.</summary>
    public static WordTable<ArtifactFormat> Formats { get; } = new(
        (ArtifactFormat.Tar, "tar"),
        (ArtifactFormat.TarGz, "tar.gz"),
        (ArtifactFormat.TarZst, "tar.zst"),
        (ArtifactFormat.TarXz, "tar.xz"),
        (ArtifactFormat.TarBz2, "tar.bz2"),
        (ArtifactFormat.Zip, "zip"),
        (ArtifactFormat.SevenZip, "7z"),
        (ArtifactFormat.Deb, "deb"),
        (ArtifactFormat.AppImage, "appimage"),
        (ArtifactFormat.Installer, "installer"),
        (ArtifactFormat.Executable, "executable"),
        (ArtifactFormat.ProgramGz, "gz"),
        (ArtifactFormat.ProgramZst, "zst"),
        (ArtifactFormat.ProgramXz, "xz"),
        (ArtifactFormat.ProgramBz2, "bz2"),
        (ArtifactFormat.File, "file"));
}
