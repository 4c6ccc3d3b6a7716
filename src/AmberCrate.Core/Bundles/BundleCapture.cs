namespace AmberCrate.Core.Bundles;

/// <summary>Where and when a bundle was captured.</summary>
/// <param name="On">The machine.</param>
/// <param name="Date">The day.</param>
public sealed record BundleCapture(string On, DateOnly Date)
{
    /// <summary>The version of the tool that wrote it; null where the file is silent.</summary>
    public string? Tool { get; init; }

    /// <summary>Whether it lists the apps for all users; otherwise those of one.</summary>
    public bool IsForAllUsers { get; init; }
}
