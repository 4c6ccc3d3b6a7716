namespace AmberCrate.Core.Trials;

/// <summary>What happened when acrate started one command or menu entry of a release.</summary>
/// <param name="Start">What was started, such as <c>menu entry scrim-paint</c>.</param>
/// <param name="Outcome">What happened.</param>
/// <param name="Words">The same in words.</param>
public sealed record StartTrialResult(string Start, TrialOutcome Outcome, string Words)
{
    private const int SignalBase = 128, LongestTitle = 60;

    /// <summary>What programs and their loaders write where a file, module or library is missing.</summary>
    private static readonly string[] Signs =
    [
        "error while loading shared libraries", "cannot open shared object file", "symbol lookup error", "ModuleNotFoundError",
        "ImportError", "No module named", "Can't locate ", "Typelib file for namespace", "is not installed",
        "cannot find", "Cannot find", "Could not find", "No such file or directory", "FileNotFoundError", "not found",
        "Traceback (most recent call last)", "Unable to open", "unable to open", "could not open", "Could not open",
        "Failed to load", "failed to load",
    ];

    /// <summary>Judges a start.</summary>
    /// <param name="start">What was started.</param>
    /// <param name="isWindowExpected">Whether it is an entry of a menu that opens a window.</param>
    /// <param name="seen">What was seen.</param>
    public static StartTrialResult Judge(string start, bool isWindowExpected, TrialSight seen)
    {
        var complaint = seen.Lines.LastOrDefault(line => Signs.Any(sign => line.Contains(sign, StringComparison.Ordinal)));
        if (seen.Title is { } title)
        {
            var shown = title.Length == 0 ? "opened a window" : $"opened the window \"{Cut(title)}\"";
            return new StartTrialResult(start, TrialOutcome.Window,
                complaint is null ? shown : $"{shown}, and wrote: {complaint}");
        }

        if (seen.ExitCode is not { } code)
        {
            var waited = $"no window after {seen.Seconds} s";
            return isWindowExpected
                ? new StartTrialResult(start, TrialOutcome.NoWindow,
                    complaint is null ? waited : $"{waited}; it wrote: {complaint}")
                : new StartTrialResult(start, TrialOutcome.Ended, $"still running after {seen.Seconds} s");
        }

        var last = complaint ?? (seen.Lines.Count > 0 ? seen.Lines[^1] : null);
        var ended = code > SignalBase ? $"was ended by signal {code - SignalBase}" : $"ended with {code}";
        var words = last is null || (code == 0 && complaint is null) ? ended : $"{ended}: {last}";
        var fails = code > SignalBase || code is 126 or 127 || (code != 0 && complaint is not null)
            || (isWindowExpected && (code != 0 || complaint is not null));
        return new StartTrialResult(start, fails ? TrialOutcome.Failed : TrialOutcome.Ended, words);
    }

    /// <summary>The result of a start that was not made.</summary>
    public static StartTrialResult NotTried(string start, string why) => new(start, TrialOutcome.NotTried, why);

    private static string Cut(string title) => title.Length <= LongestTitle ? title : title[..LongestTitle] + "…";
}
