using AmberCrate.Core.Placements;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;
using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Installers;

/// <summary>Starts an app once, confined as installers are, to see that it works.</summary>
/// <param name="confinement">How programs are confined.</param>
/// <param name="workFolder">A folder for what it writes; made and removed here.</param>
public sealed class StartTrial(Confinement confinement, string workFolder)
{
    private const long MostBytes = 256 << 20;

    /// <summary>The faults of an app, in words; null where it does as its card says.</summary>
    /// <param name="check">What to start, and what to expect.</param>
    /// <param name="version">The version of the app.</param>
    /// <param name="shelfFolder">The folder of the version.</param>
    /// <param name="program">The program that is the command, inside that folder.</param>
    /// <param name="say">Receives every line that it writes.</param>
    /// <param name="cancel">Ends it at once.</param>
    public string? Fault(
        StartCheck check, AppVersion version, string shelfFolder, InsidePath program, Action<string> say,
        CancellationToken cancel)
    {
        var (home, temporary, folder) =
            (Path.Combine(workFolder, "home"), Path.Combine(workFolder, "tmp"), Path.Combine(workFolder, "here"));
        DeepFolder.Delete(workFolder);
        try
        {
            foreach (var own in new[] { workFolder, home, temporary, folder }) PrivateFolder.Make(own);
            var expected = check.Output.Replace(StartCheck.VersionMark, version.Text, StringComparison.Ordinal);
            var isThere = expected.Length == 0;
            var ended = confinement.Run(
                new ProgramCall(Path.Combine(shelfFolder, program.Text), check.Arguments),
                new ProgramPlace(folder, folder, home, temporary, workFolder)
                {
                    Visible = shelfFolder,
                }, new ProgramLimits(TimeSpan.FromSeconds(check.Seconds), MostBytes, [workFolder]),
                line =>
                {
                    say(line);
                    if (line.Contains(expected, StringComparison.Ordinal)) isThere = true;
                },
                cancel);
            var words = ended.LastLines.Count > 0 ? $"; its last lines: {string.Join(" / ", ended.LastLines)}" : "";
            if (ended.Refusal is { } refusal) return $"{check.CommandLine}: {refusal}{words}";
            if (ended.ExitCode != 0) return $"{check.CommandLine} ended with {ended.ExitCode}{words}";
            return isThere ? null : $"{check.CommandLine} has not written \"{expected}\"{words}";
        }
        finally
        {
            DeepFolder.Delete(workFolder);
        }
    }
}
