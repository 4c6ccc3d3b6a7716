namespace AmberCrate.Engine.Host;

/// <summary>Finds programs as a shell does.</summary>
internal static class ProgramSearch
{
    /// <summary>The path of a program; null where it is in none of the folders.</summary>
    /// <param name="name">Its name.</param>
    /// <param name="searchPath">The value of PATH.</param>
    public static string? Find(string name, string searchPath) =>
        searchPath.Split(':', StringSplitOptions.RemoveEmptyEntries)
            .Select(folder => Path.Combine(folder, name))
            .FirstOrDefault(File.Exists);
}
