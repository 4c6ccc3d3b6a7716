using AmberCrate.Core.Bundles;

namespace AmberCrate.Engine.Exporting;

/// <summary>What an export has written, and what it could not carry.</summary>
/// <param name="Bundle">The machine as a bundle, which names what it cannot carry.</param>
/// <param name="Text">What was written, or is to be printed; null where the user called it off.</param>
/// <param name="File">The absolute path of the file; null where none was written.</param>
/// <param name="NotHere">The names of entries of the file that this machine does not hold; they stay in it.</param>
public sealed record ExportResult(Bundle Bundle, string? Text, string? File, IReadOnlyList<string> NotHere);
