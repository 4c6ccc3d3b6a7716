using System.Globalization;

namespace AmberCrate.Engine.Host;

/// <summary>
/// The steps at which a change reaches the disk, counted. For tests of what a sudden end leaves behind: with
/// <c>ACRATE_END_AT_STEP=N</c> in the environment the process kills itself at step N, as a power cut would.
/// </summary>
internal static class Steps
{
    private static readonly int End = int.TryParse(
        Environment.GetEnvironmentVariable("ACRATE_END_AT_STEP"), NumberStyles.None, CultureInfo.InvariantCulture,
        out var step) ? step : 0;
    private static int _passed;

    /// <summary>Passes one step.</summary>
    public static void Pass()
    {
        if (End > 0 && Interlocked.Increment(ref _passed) == End) Posix.KillSelf();
    }
}
