namespace AmberCrate.Core.Bundles;

/// <summary>What a bundle and all that it builds on come to on one machine.</summary>
/// <param name="Bundle">The result as one bundle, without layers and conditions.</param>
/// <param name="Entries">Every entry that counts, in the order of the result, and then those that do not, with
/// the reason.</param>
public sealed record FlatBundle(Bundle Bundle, IReadOnlyList<FlatEntry> Entries)
{
    /// <summary>What its files say that matches nothing, in words: most likely a name is misspelt.</summary>
    public IReadOnlyList<string> Unmatched { get; init; } = [];

    /// <summary>Whether the bundle as a whole is for other machines.</summary>
    public bool IsForOthers { get; init; }
}
