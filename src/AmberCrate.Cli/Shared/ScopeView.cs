using AmberCrate.Cli.Tables;
using AmberCrate.Cli.Terminal;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Values;

namespace AmberCrate.Cli.Shared;

/// <summary>Warns of apps that are there twice: for a user, and for all users.</summary>
internal static class ScopeView
{
    /// <summary>Shows what else is there.</summary>
    /// <param name="output">Where to.</param>
    /// <param name="twice">The apps of the other scope that are in this one too, or will be.</param>
    /// <param name="scope">This scope.</param>
    /// <param name="firstOnPath">The folder of commands that a shell looks into first; null where that is none of the
    /// two.</param>
    public static void ShowInBothScopes(Output output, IReadOnlyList<InstalledApp> twice, InstallScope scope, string? firstOnPath)
    {
        if (twice.Count == 0) return;
        var whom = ScopeText.For(OtherThan(scope));
        output.Line(new Cell(
            $"also installed {whom}: {string.Join(", ", twice.Select(app => $"{app.Id} {app.Version}"))}",
            Tone.Attention));
        if (firstOnPath is not null)
            output.Line(new Cell($"  its commands start the app in {firstOnPath}, which is first on PATH", Tone.Attention));
    }

    /// <summary>The other of the two scopes.</summary>
    public static InstallScope OtherThan(InstallScope scope) =>
        scope == InstallScope.AllUsers ? InstallScope.ThisUser : InstallScope.AllUsers;
}
