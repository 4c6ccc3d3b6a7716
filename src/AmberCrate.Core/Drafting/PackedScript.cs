namespace AmberCrate.Core.Drafting;

/// <summary>A script or module in a package, as far as what it needs can be read from it.</summary>
/// <param name="Path">Its path in the shelf entry.</param>
/// <param name="Interpreter">What its first line has it started by: a path, or a name to look up on the path; null for a
/// module.</param>
/// <param name="Imports">What it imports whatever happens, as its language writes it.</param>
/// <param name="Typelibs">The typelibs that it loads whatever happens, such as <c>Gauze-2.0</c>.</param>
/// <param name="Named">The absolute paths that it names.</param>
public sealed record PackedScript(
    string Path, string? Interpreter, IReadOnlyList<string> Imports, IReadOnlyList<string> Typelibs,
    IReadOnlyList<string> Named);
