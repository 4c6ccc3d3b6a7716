using System.Text;
using AmberCrate.Cli.Running;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Cli.CommandLine;

/// <summary>A file into which the outcome of a run is written.</summary>
internal sealed class ReportFile
{
    private const UnixFileMode Mode =
        UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.GroupRead | UnixFileMode.OtherRead;

    private readonly string _named, _path;
    private readonly Func<RunResult, Call, string> _render;

    /// <summary>Takes a file; its ending says which form is written.</summary>
    /// <param name="named">The file as it was named.</param>
    /// <param name="path">Its absolute path.</param>
    /// <exception cref="ProblemException">Its ending says nothing, or there is no such folder.</exception>
    public ReportFile(string named, string path)
    {
        (_named, _path) = (named, path);
        _render = Path.GetExtension(path).ToLowerInvariant() switch
        {
            ".json" => (result, call) => ReportText.Json(result, call.Session, call.Output.Documents),
            ".md" => (result, call) => ReportText.Markdown(result, call.Session),
            ".html" or ".htm" => (result, call) => ReportPage.Render(result, call.Session),
            _ => throw new Problem(
                ProblemCode.BadCommandLine, $"--report \"{named}\" cannot be used",
                "expected a name ending in .json, .md or .html")
                    .ToException(),
        };
        if (!Directory.Exists(Path.GetDirectoryName(path)))
            throw new Problem(
                ProblemCode.NothingMatched, $"{named} cannot be written", $"there is no folder {Path.GetDirectoryName(path)}")
                    .ToException();
    }

    /// <summary>Writes it. A report that cannot be written does not change how the run ended.</summary>
    public void Write(RunResult result, Call call)
    {
        try
        {
            AtomicFile.Write(_path, Encoding.UTF8.GetBytes(_render(result, call)), Mode);
        }
        catch (Exception fault) when (IoProblems.IsExpected(fault))
        {
            call.Output.Notice(
                $"the report {_named} could not be written: {IoProblems.ToProblem(fault, "it cannot be written").Why}");
        }
    }
}
