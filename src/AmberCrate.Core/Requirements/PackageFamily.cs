namespace AmberCrate.Core.Requirements;

/// <summary>The families of systems, by how their packages are kept.</summary>
public enum PackageFamily
{
    /// <summary>Debian and its relatives.</summary>
    Deb,

    /// <summary>Systems with rpm.</summary>
    Rpm,

    /// <summary>Systems with pacman.</summary>
    Pacman,
}

/// <summary>The facts about each family: one row each.</summary>
/// <param name="Family">The family.</param>
/// <param name="Word">Its word, in cards and JSON.</param>
/// <param name="Databases">Where its systems keep their package database, below the root: any of them marks the family.</param>
/// <param name="Installers">The programs that install packages with their arguments, the first that is there.</param>
public sealed record PackageFamilyRow(
    PackageFamily Family,
    string Word,
    IReadOnlyList<string> Databases,
    IReadOnlyList<(string Program, string Arguments)> Installers)
{
    /// <summary>All families.</summary>
    public static IReadOnlyList<PackageFamilyRow> All { get; } =
    [
        new(PackageFamily.Deb, "deb", ["var/lib/dpkg/status"], [("apt-get", "install")]),
        new(PackageFamily.Rpm, "rpm", ["usr/lib/sysimage/rpm", "var/lib/rpm"], [("dnf", "install"), ("zypper", "install")]),
        new(PackageFamily.Pacman, "pacman", ["var/lib/pacman/local"], [("pacman", "-S --needed")]),
    ];
}
