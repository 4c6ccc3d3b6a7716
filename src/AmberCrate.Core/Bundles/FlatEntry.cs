namespace AmberCrate.Core.Bundles;

/// <summary>An entry of a bundle and where it comes from.</summary>
/// <param name="App">The entry.</param>
/// <param name="From">The layer it is written in.</param>
public sealed record FlatEntry(BundleApp App, string From)
{
    /// <summary>Why it does not count on this machine; null where it does.</summary>
    public string? LeftOut { get; init; }

    /// <summary>The place, as messages name it.</summary>
    public string Place => App.Line > 0 ? $"{From}:{App.Line}" : From;
}
