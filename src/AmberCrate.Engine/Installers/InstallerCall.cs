using AmberCrate.Core.Cards;
using AmberCrate.Engine.Fetching;

namespace AmberCrate.Engine.Installers;

/// <summary>A vendor's installer, and how it is started.</summary>
/// <param name="File">The installer, verified.</param>
/// <param name="Artifact">Says how it is run.</param>
/// <param name="More">Arguments of the user, after those of the card.</param>
public sealed record InstallerCall(VerifiedFile File, Artifact Artifact, IReadOnlyList<string> More)
{
    /// <summary>Whether a user answers it on the terminal.</summary>
    public bool IsAttended { get; init; }
}
