using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Runs;

/// <summary>The words for <see cref="RunStage"/>, in logs, JSON and on the terminal.</summary>
public static class StageWords
{
    /// <summary>A word for each stage.</summary>
    public static WordTable<RunStage> Stages { get; } = new(
        (RunStage.Fetching, "downloading"), (RunStage.Unpacking, "unpacking"), (RunStage.Placing, "placing"),
        (RunStage.Removing, "removing"));
}
