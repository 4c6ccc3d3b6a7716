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

    /// <summary>A zip archive.</summary>
    Zip,

    /// <summary>A single executable file.</summary>
    Executable,
}
