namespace AmberCrate.Core.Drafting;

/// <summary>A program or shared library in a package, as far as the loader needs to know it.</summary>
/// <param name="Path">Its path in the shelf entry.</param>
/// <param name="IsProgram">Whether it is started, and not only loaded by others.</param>
/// <param name="Needed">The libraries that it asks for.</param>
/// <param name="Versions">The versions of symbols that it must find, with the library of each.</param>
public sealed record PackedElf(
    string Path, bool IsProgram, IReadOnlyList<string> Needed, IReadOnlyList<(string Library, string Version)> Versions)
{
    /// <summary>Where it has libraries searched first; <c>$ORIGIN</c> means its own folder.</summary>
    public IReadOnlyList<string> SearchPaths { get; init; } = [];

    /// <summary>For a program: the absolute paths that it names.</summary>
    public IReadOnlyList<string> Named { get; init; } = [];

    /// <summary>The last part of the path: what others ask for it by, if it is a library.</summary>
    public string Name => Path[(Path.LastIndexOf('/') + 1)..];
}
