using AmberCrate.Core.Problems;
using AmberCrate.Core.Runs;

namespace AmberCrate.Cli;

/// <summary>The documented exit codes.</summary>
internal static class ExitCodes
{
    public const int AllAsAsked = 0;
    public const int SomeFailed = 1;
    public const int Difference = 10;

    /// <summary>A mistake of this program: EX_SOFTWARE of sysexits.h.</summary>
    public const int OwnMistake = 70;

    public static int Of(ProblemCode code) => code switch
    {
        ProblemCode.BadCommandLine => 2,
        ProblemCode.NothingMatched or ProblemCode.Ambiguous => 3,
        ProblemCode.Refused => 4,
        ProblemCode.NotVerified => 5,
        ProblemCode.Unreachable => 6,
        ProblemCode.NoRights => 7,
        ProblemCode.AppOpen => SomeFailed,
        ProblemCode.Locked => 8,
        ProblemCode.StateNeedsAttention => 9,
        ProblemCode.Interrupted => 130,
        _ => throw new ArgumentOutOfRangeException(nameof(code), code, "every code has an exit code"),
    };

    public static int Of(RunReport report) =>
        report.Interrupted ? Of(ProblemCode.Interrupted)
        : !report.Failures.Any() ? AllAsAsked
        : report.SoleCause is { } cause ? Of(cause) : SomeFailed;
}
