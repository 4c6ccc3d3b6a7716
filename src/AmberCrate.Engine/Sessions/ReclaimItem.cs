using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Sessions;

/// <summary>A file or folder that takes room.</summary>
/// <param name="Kind">What it is.</param>
/// <param name="App">The app that it belongs to; null for none.</param>
/// <param name="Path">Where it is.</param>
/// <param name="Size">How many bytes it would free.</param>
public sealed record ReclaimItem(ReclaimKind Kind, AppId? App, string Path, long Size)
{
    /// <summary>How many things it is.</summary>
    public int Count { get; init; } = 1;

    /// <summary>Why it stays; null where it is deleted.</summary>
    public string? Kept { get; init; }
}
