using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Kits;

/// <summary>How to make a kit.</summary>
/// <param name="Bundle">The bundle.</param>
/// <param name="File">The file to write.</param>
public sealed record KitRequest(string Bundle, string File)
{
    /// <summary>The platform it is for; null for this machine's.</summary>
    public Platform? Platform { get; init; }

    /// <summary>Whether this program is put beside it.</summary>
    public bool WithProgram { get; init; }

    /// <summary>How many bytes each file has at most; null for one file.</summary>
    public long? Split { get; init; }
}
