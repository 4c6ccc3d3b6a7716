using AmberCrate.Core.Bundles;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.BundleFiles;

/// <summary>A folder of exports, each the bundle of one machine.</summary>
/// <param name="folder">The folder.</param>
public sealed class ExportFolder(string folder)
{
    /// <summary>Its files, in the order of their names.</summary>
    /// <exception cref="ProblemException">There is none.</exception>
    public IReadOnlyList<string> Files()
    {
        List<string> files = Directory.Exists(folder)
            ? [.. Directory.EnumerateFiles(folder, "*" + Bundle.FileEnding).Order(StringComparer.Ordinal)]
            : [];
        return files.Count > 0
            ? files
            : throw new Problem(
                ProblemCode.NothingMatched, $"{folder} holds no exports", $"no file in it ends in {Bundle.FileEnding}")
                .ToException();
    }

    /// <summary>What is in each file: the bundle, or why it cannot be read.</summary>
    /// <param name="progress">Hears how far it is.</param>
    /// <param name="cancel">Cancels the operation.</param>
    /// <exception cref="ProblemException">There is none.</exception>
    public IReadOnlyList<(string Name, Bundle? Bundle, string? Fault)> Read(WorkProgress progress, CancellationToken cancel)
    {
        var (files, done) = (Files(), 0);
        return
        [
            .. files.AsParallel().AsOrdered().WithCancellation(cancel).Select(file =>
            {
                var export = Read(file);
                progress("reading exports", Interlocked.Increment(ref done), files.Count);
                return export;
            }),
        ];
    }

    private static (string Name, Bundle? Bundle, string? Fault) Read(string file)
    {
        var name = Path.GetFileName(file)[..^Bundle.FileEnding.Length];
        try
        {
            return (name, BundleFile.Read(file), null);
        }
        catch (Exception fault) when (IoProblems.IsExpected(fault))
        {
            var problem = IoProblems.ToProblem(fault, "it cannot be read");
            return (name, null, problem.Details.Count > 0 ? problem.Details[0].ToString() : problem.What);
        }
    }
}
