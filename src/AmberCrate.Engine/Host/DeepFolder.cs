namespace AmberCrate.Engine.Host;

/// <summary>Deletes folders that another user or a vendor's program filled.</summary>
internal static class DeepFolder
{
    /// <summary>Deletes a folder with everything in it, and follows no link. Nothing happens if there is none.</summary>
    /// <exception cref="IOException">Something cannot be deleted.</exception>
    public static void Delete(string folder)
    {
        if (!Directory.Exists(folder)) return;
        try
        {
            Directory.Delete(folder, recursive: true);
        }
        catch (Exception fault) when (fault is IOException or UnauthorizedAccessException or ArgumentException)
        {
            RawTree.Delete(folder);
        }
    }

    /// <summary>
    /// The same for leftovers of earlier runs. If one cannot be deleted, it stays: <c>check</c> and <c>reclaim</c> name it, and
    /// the current command continues.
    /// </summary>
    /// <returns>Why it is still there; null if it is gone.</returns>
    public static string? TryDelete(string folder)
    {
        try
        {
            Delete(folder);
            return null;
        }
        catch (Exception fault) when (fault is IOException or UnauthorizedAccessException)
        {
            return fault.Message;
        }
    }
}
