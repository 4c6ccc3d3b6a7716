using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Planning;

/// <summary>Everything that a run will do, in the order in which it will do it. The same object is shown, written as JSON and carried out.</summary>
/// <param name="Items">The items.</param>
public sealed record Plan(IReadOnlyList<PlanItem> Items)
{
    /// <summary>The same plan with digests that the person has stated, for apps whose files have changed since the catalogue was written.</summary>
    /// <param name="stated">Digests by id.</param>
    /// <exception cref="ProblemException">One is for an app of which nothing is fetched.</exception>
    public Plan Expecting(IReadOnlyDictionary<string, Sha256Digest> stated)
    {
        if (stated.Keys.FirstOrDefault(id => !Items.Any(item => item.Fetches && item.Id == id)) is { } idle)
            throw new Problem(ProblemCode.BadCommandLine, $"--expect names {idle}, of which nothing is fetched", "nothing has been changed", "name an app that the plan installs or changes, by its id").ToException();
        return new Plan([.. Items.Select(item => stated.TryGetValue(item.Id, out var digest) && item.Fetches && digest != item.Artifact!.Sha256 ? item with { StatedSha256 = digest } : item)]);
    }

    /// <summary>The same plan with arguments for installers. They take the place of what was remembered.</summary>
    /// <param name="given">The arguments by id.</param>
    /// <exception cref="ProblemException">Some are for an app that runs no installer.</exception>
    public Plan Giving(IReadOnlyDictionary<string, IReadOnlyList<string>> given)
    {
        if (given.Keys.FirstOrDefault(id => !Items.Any(item => item.RunsInstaller && item.Id == id)) is { } idle)
            throw new Problem(ProblemCode.BadCommandLine, $"--to-installer names {idle}, of which no installer is run", "nothing has been changed", "name an app that the plan puts on by an installer, by its id").ToException();
        return given.Count == 0 ? this : new Plan([.. Items.Select(item => given.TryGetValue(item.Id, out var arguments) ? item with { ToInstaller = arguments } : item)]);
    }

    /// <summary>Whether carrying it out changes anything.</summary>
    public bool Changes => Items.Any(item => item.Changes);

    /// <summary>How many bytes have to be downloaded at most, cached files not counted off.</summary>
    public long DownloadSize => Items.Where(item => item.Fetches).Sum(item => item.Artifact!.DownloadSize);
}
