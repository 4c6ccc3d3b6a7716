using AmberCrate.Core.Bundles;

namespace AmberCrate.Engine.Bundling;

/// <summary>A bundle that has been sealed.</summary>
/// <param name="File">The absolute path of the file.</param>
/// <param name="Bundle">The sealed bundle.</param>
/// <param name="DownloadSize">How many bytes its artifacts have.</param>
public sealed record SealResult(string File, Bundle Bundle, long DownloadSize);
