using AmberCrate.Core.Plans;
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

    /// <summary>What each code means, for help and manual pages.</summary>
    public static IReadOnlyDictionary<int, string> Meanings { get; } = new SortedDictionary<int, string>
    {
        [AllAsAsked] = "all as asked, also where there was nothing to do",
        [SomeFailed] = "some items failed, the others are done",
        [2] = "the command line is wrong",
        [3] = "nothing matches, or a name fits several apps",
        [4] = "refused: a conflict, or needed by others",
        [5] = "a file did not verify",
        [6] = "the network or a catalogue could not be reached",
        [7] = "rights are missing",
        [8] = "another run is at work",
        [9] = "the state on the disk needs attention",
        [Difference] = "there is a difference",
        [11] = "the system lacks what an app requires",
        [12] = "a vendor's installer failed",
        [OwnMistake] = "a mistake of acrate itself",
        [130] = "interrupted, or you said no",
    };

    public static int ForProblem(ProblemCode code) => code switch
    {
        ProblemCode.BadCommandLine => 2,
        ProblemCode.NothingMatched or ProblemCode.Ambiguous => 3,
        ProblemCode.Refused => 4,
        ProblemCode.NotVerified or ProblemCode.Expired => 5,
        ProblemCode.SystemLacks => 11,
        ProblemCode.InstallerFailed => 12,
        ProblemCode.Unreachable => 6,
        ProblemCode.NoRights => 7,
        ProblemCode.InUse => SomeFailed,
        ProblemCode.Locked => 8,
        ProblemCode.StateNeedsAttention => 9,
        ProblemCode.Interrupted => 130,
    };

    /// <summary>The code of a plan that is only shown: that of carrying it out, as far as can be foreseen.</summary>
    public static int ForPlan(SurveyedPlan plan) =>
        plan.Rights.State == RightsState.Missing ? ForProblem(ProblemCode.NoRights)
        : plan.Obstacle is { } obstacle ? ForProblem(obstacle.Code) : ForReport(RunReport.Foreseen(plan.Solved));

    public static int ForReport(RunReport report) =>
        report.Interrupted ? ForProblem(ProblemCode.Interrupted)
        : !report.Failures.Any() ? report.Unclosed is { } unclosed ? ForProblem(unclosed.Code) : AllAsAsked
        : report.SoleCause is { } cause ? ForProblem(cause) : SomeFailed;
}
