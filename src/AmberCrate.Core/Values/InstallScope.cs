namespace AmberCrate.Core.Values;

/// <summary>
/// Whom apps are installed for. Each scope is a machine of its own: with its own apps, catalogues, records and lock.
/// </summary>
public enum InstallScope
{
    /// <summary>The user who runs the program, below the home folder.</summary>
    ThisUser,

    /// <summary>Everybody who uses the machine, in the system's own folders.</summary>
    AllUsers,
}
