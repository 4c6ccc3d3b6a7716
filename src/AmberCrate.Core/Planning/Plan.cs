namespace AmberCrate.Core.Planning;

/// <summary>Everything that a run will do, in the order in which it will do it. The same object is shown, written as JSON and carried out.</summary>
/// <param name="Items">The items.</param>
public sealed record Plan(IReadOnlyList<PlanItem> Items)
{
    /// <summary>Whether carrying it out changes anything.</summary>
    public bool Changes => Items.Any(item => item.Changes);

    /// <summary>How many bytes have to be downloaded at most, cached files not counted off.</summary>
    public long DownloadSize => Items.Where(item => item.Fetches).Sum(item => item.Artifact!.DownloadSize);
}
