using AmberCrate.Core.Machine;

namespace AmberCrate.Engine.Installers;

/// <summary>What a foreign program is allowed.</summary>
/// <param name="Time">How long it may take.</param>
/// <param name="Bytes">How much it may write into its folders.</param>
/// <param name="Folders">Its folders.</param>
public sealed record ProgramLimits(TimeSpan Time, long Bytes, IReadOnlyList<string> Folders)
{
    /// <summary>How many files and folders it may make.</summary>
    public int Entries { get; init; } = UnpackingBudget.MostEntries;
}
