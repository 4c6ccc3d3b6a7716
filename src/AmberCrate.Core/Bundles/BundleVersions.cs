namespace AmberCrate.Core.Bundles;

/// <summary>What a bundle says about the versions of its apps.</summary>
public enum BundleVersions
{
    /// <summary>The exact version, and what the app follows.</summary>
    Exact,

    /// <summary>Only what the app follows; equip takes the newest of that.</summary>
    Follow,

    /// <summary>Nothing; equip takes the newest of the usual line.</summary>
    None,
}
