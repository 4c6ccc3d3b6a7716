using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Installers;

/// <summary>
/// Runs a vendor's self-extracting installer so that it fills a folder: confined, with an environment, a home folder and a folder
/// for temporary files of its own, without a terminal or input, for a limited time.
/// </summary>
/// <param name="confinement">How programs are confined.</param>
/// <param name="workFolder">A folder on the same disk for what the installer needs beside its target; made and removed
/// here.</param>
public sealed class InstallerRun(Confinement confinement, string workFolder)
{
    /// <summary>How long a user may take to answer.</summary>
    private static readonly TimeSpan AttendedTime = TimeSpan.FromHours(2);

    private const UnixFileMode OwnerOnly = UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute;

    /// <summary>Runs an installer.</summary>
    /// <param name="call">The installer.</param>
    /// <param name="folder">The empty folder that it shall fill.</param>
    /// <param name="finalFolder">Where that folder will lie afterwards. A confined installer sees it there already, since many
    /// write into their files where they were put.</param>
    /// <param name="say">Receives every line that it writes, from any thread.</param>
    /// <param name="cancel">Ends it at once.</param>
    /// <returns>Whether the machine must be restarted to finish.</returns>
    /// <exception cref="ProblemException">It failed, took too long or too much room, or left nothing in the folder.</exception>
    public bool Run(
        InstallerCall call, string folder, string finalFolder, Action<string> say, CancellationToken cancel)
    {
        var (file, rules) = (call.File, call.Artifact.Installer!);
        var (home, temporary, program) =
            (Path.Combine(workFolder, "home"), Path.Combine(workFolder, "tmp"), Path.Combine(workFolder, "installer"));
        DropWork();
        try
        {
            foreach (var own in new[] { workFolder, home, temporary }) PrivateFolder.Make(own);
            using (var verified = file.OpenUnchanged() ?? throw new IOException($"{file.Path} was changed after it was checked"))
            using (var copy = new FileStream(program, new FileStreamOptions
            {
                Mode = FileMode.CreateNew, Access = FileAccess.Write, UnixCreateMode = OwnerOnly,
            }))
            {
                verified.CopyTo(copy);
            }

            var seen = confinement.IsConfined ? Directory.CreateDirectory(finalFolder).FullName : folder;
            List<string> arguments = [.. (call.IsAttended ? rules.AttendedArguments! : rules.Arguments).Select(
                argument => argument.Replace(InstallerRules.FolderMark, seen, StringComparison.Ordinal)), .. call.More];
            var limits = new ProgramLimits(
                TimeSpan.FromSeconds(rules.Seconds), new UnpackingBudget(call.Artifact).MostBytes, [folder, workFolder]);
            var place = new ProgramPlace(folder, seen, home, temporary, workFolder);
            if (call.IsAttended) limits = limits with { Time = AttendedTime };
            var ended = confinement.Run(
                new ProgramCall(program, arguments) { IsAttended = call.IsAttended }, place, limits, say, cancel);
            if (ended.Refusal is { } refusal) throw Failed(refusal, ended);
            if (!rules.SuccessCodes.Contains(ended.ExitCode) && !rules.RestartCodes.Contains(ended.ExitCode))
                throw Failed($"it ended with {ended.ExitCode}", ended);
            if (!Directory.EnumerateFileSystemEntries(folder).Any())
                throw Failed("it ended as it should, and has put nothing into its folder", ended);
            foreach (var link in Tame(folder, finalFolder)) say($"acrate removed a link that leads out of the app: {link}");
            return rules.RestartCodes.Contains(ended.ExitCode);
        }
        finally
        {
            DropWork();
        }
    }

    private void DropWork() => DeepFolder.Delete(workFolder);

    private static IReadOnlyList<string> Tame(string folder, string finalFolder)
    {
        try
        {
            return PermissionScrub.Tame(folder, finalFolder);
        }
        catch (RefusedEntryException refused)
        {
            throw new Problem(
                ProblemCode.NotVerified, "what the installer has put there is not accepted", $"it holds {refused.Message}",
                "tell the catalogue's maintainer").ToException(refused);
        }
    }

    private static ProblemException Failed(string why, ProgramEnd ended) => new Problem(
        ProblemCode.InstallerFailed,
        "the installer failed",
        ended.LastLines.Count > 0
            ? $"{why}; its last lines: {string.Join(" / ", ended.LastLines)}"
            : $"{why}; it printed nothing",
        "see the log of this app; where it waited for an answer, --installer-argument APP=ARGUMENT may give it").ToException();
}
