namespace AmberCrate.Engine.Fetching;

/// <summary>
/// An artifact that is there. Its digest may still be being taken: it may be unpacked into a hidden folder in the meantime, but
/// nothing of it is accepted without the <see cref="VerifiedFile"/> that comes out of the check.
/// </summary>
/// <param name="path">The file.</param>
/// <param name="check">The check; it returns null where the file has been altered.</param>
public sealed class PresentFile(string path, Task<VerifiedFile?> check)
{
    /// <summary>The file.</summary>
    public string Path { get; } = path;

    /// <summary>The check; it returns null where the file has been altered.</summary>
    public Task<VerifiedFile?> Check { get; } = check;

    /// <summary>A file that has been checked.</summary>
    public static PresentFile FromVerified(VerifiedFile file) => new(file.Path, Task.FromResult<VerifiedFile?>(file));
}
