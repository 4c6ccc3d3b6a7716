using AmberCrate.Core.Values;

namespace AmberCrate.Core.Cards;

/// <summary>How the files of a release are packed.</summary>
public enum ArtifactForm
{
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

    /// <summary>A Debian package, of which only the files are taken: none of its scripts runs.</summary>
    Deb,

    /// <summary>An AppImage, which is kept whole.</summary>
    AppImage,

    /// <summary>A single executable file.</summary>
    Executable,

    /// <summary>A program of the vendor that unpacks itself into a folder; it is run with the card's arguments.</summary>
    Installer,

    /// <summary>A single file that is no program, such as a font.</summary>
    File,
}

/// <content>The words for <see cref="ArtifactForm"/>.</content>
public static partial class CardWords
{
    /// <summary>Forms of artifacts, by the usual endings of such files.</summary>
    public static WordTable<ArtifactForm> Forms { get; } = new(
        (ArtifactForm.TarGz, "tar.gz"),
        (ArtifactForm.TarZst, "tar.zst"),
        (ArtifactForm.TarXz, "tar.xz"),
        (ArtifactForm.TarBz2, "tar.bz2"),
        (ArtifactForm.Zip, "zip"),
        (ArtifactForm.SevenZip, "7z"),
        (ArtifactForm.Deb, "deb"),
        (ArtifactForm.AppImage, "appimage"),
        (ArtifactForm.Installer, "installer"),
        (ArtifactForm.Executable, "executable"),
        (ArtifactForm.File, "file"));
}
