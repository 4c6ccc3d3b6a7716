using System.Globalization;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Host;

/// <summary>
/// The steps at which a change reaches the disk, counted. For tests of what a sudden end leaves behind: with
/// <c>ACRATE_END_AT_STEP=N</c> in the environment the process kills itself at step N, as a power cut would, and with
/// <c>ACRATE_MISTAKE_AT_STEP=N</c> it behaves as if it had a mistake there.
/// </summary>
internal static class CrashPoints
{
    private static readonly int End = Number("ACRATE_END_AT_STEP"), Mistake = Number("ACRATE_MISTAKE_AT_STEP");
    private static int _passed;

    /// <summary>Passes one step.</summary>
    public static void Pass()
    {
        if (End == 0 && Mistake == 0) return;
        var step = Interlocked.Increment(ref _passed);
        if (step == End) Posix.KillSelf();
        if (step == Mistake) throw new InvalidOperationException("a mistake made on purpose");
    }

    private static int Number(string variable) =>
        int.TryParse(Environment.GetEnvironmentVariable(variable), NumberStyles.None, CultureInfo.InvariantCulture, out var step)
            ? step
            : 0;
}
