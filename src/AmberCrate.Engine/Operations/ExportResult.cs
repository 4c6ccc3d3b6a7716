using AmberCrate.Core.Bundles;
using AmberCrate.Core.Machine;

namespace AmberCrate.Engine.Operations;

/// <summary>What an export has written, and what it could not carry.</summary>
/// <param name="Bundle">The bundle.</param>
/// <param name="File">The absolute path of the file; null where none was written.</param>
/// <param name="NotHere">The names of entries of the file that this machine does not hold; they stay in it.</param>
/// <param name="NotCarried">The apps that a bundle cannot carry.</param>
public sealed record ExportResult(
    Bundle Bundle, string? File, IReadOnlyList<string> NotHere, IReadOnlyList<InstalledApp> NotCarried);
