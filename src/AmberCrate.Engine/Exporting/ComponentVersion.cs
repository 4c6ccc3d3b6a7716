namespace AmberCrate.Engine.Exporting;

/// <summary>A library that this program is made of or uses, and its version.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Version">Its version, as the library itself says.</param>
/// <param name="IsInside">Whether it is part of the executable. If not, the system's own is used.</param>
public sealed record ComponentVersion(string Name, string Version, bool IsInside = true)
{
    /// <summary>
    /// The distribution's package that was linked in, such as <c>pkg:deb/debian/openssl@3.0.19-1~deb12u2</c>, as a package URL
    /// (ECMA-427). Its revision says which fixes are inside, although the version is an old one. Null if none is known.
    /// </summary>
    public string? Package { get; init; }
}
