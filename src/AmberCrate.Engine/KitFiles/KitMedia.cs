namespace AmberCrate.Engine.KitFiles;

/// <summary>The media types and keys of a kit.</summary>
public static class KitMedia
{
    /// <summary>What the manifest says it is.</summary>
    public const string Kit = "application/vnd.ambercrate.kit.v1";

    /// <summary>The sealed bundle.</summary>
    public const string Bundle = "application/vnd.ambercrate.bundle.v1+toml";

    /// <summary>The cards of one catalogue, one a line, each with the release of the bundle only.</summary>
    public const string Cards = "application/vnd.ambercrate.cards.v1+jsonl";

    /// <summary>The artifact of an app.</summary>
    public const string Artifact = "application/vnd.ambercrate.artifact.v1";

    /// <summary>A file of a signed catalogue that vouches for its cards; its title is its path there.</summary>
    public const string Trust = "application/vnd.ambercrate.trust.v1";

    /// <summary>The program itself.</summary>
    public const string Program = "application/vnd.ambercrate.program.v1";

    /// <summary>The ending of a kit's file name.</summary>
    public const string FileEnding = ".amberkit";

    internal const string Index = "application/vnd.oci.image.index.v1+json",
        Manifest = "application/vnd.oci.image.manifest.v1+json", Config = "application/vnd.oci.image.config.v1+json";

    internal const string TitleKey = "org.opencontainers.image.title", CreatedKey = "org.opencontainers.image.created",
        NameKey = "org.opencontainers.image.ref.name", PlatformKey = "io.ambercrate.platform",
        CatalogueKey = "io.ambercrate.catalogue", BaseKey = "io.ambercrate.base";
}
