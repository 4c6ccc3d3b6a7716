namespace AmberCrate.Engine.Tests;

/// <summary>The project's own folder, whose pages are held to the program.</summary>
public static class Repository
{
    public static string Folder { get; } = Find();

    private static string Find()
    {
        var folder = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(folder, "AmberCrate.slnx"))) folder = Path.GetDirectoryName(folder)!;
        return folder;
    }
}
