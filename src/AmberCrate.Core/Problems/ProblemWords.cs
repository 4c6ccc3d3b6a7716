using AmberCrate.Core.Values;

namespace AmberCrate.Core.Problems;

/// <summary>The words for <see cref="ProblemCode"/>, in JSON and on disk.</summary>
public static class ProblemWords
{
    /// <summary>A word for each code.</summary>
    public static WordTable<ProblemCode> Codes { get; } = new(
        (ProblemCode.BadCommandLine, "bad-command-line"), (ProblemCode.NothingMatched, "nothing-matched"),
        (ProblemCode.Ambiguous, "ambiguous"),
        (ProblemCode.Refused, "refused"), (ProblemCode.NotVerified, "not-verified"),
        (ProblemCode.Expired, "expired"), (ProblemCode.SystemLacks, "system-lacks"),
        (ProblemCode.InstallerFailed, "installer-failed"),
        (ProblemCode.Unreachable, "unreachable"),
        (ProblemCode.NoRights, "no-rights"), (ProblemCode.InUse, "in-use"), (ProblemCode.Locked, "locked"),
        (ProblemCode.StateNeedsAttention, "state-needs-attention"), (ProblemCode.Interrupted, "interrupted"));
}
