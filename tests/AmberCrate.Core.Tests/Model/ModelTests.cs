using CsCheck;

namespace AmberCrate.Core.Tests.Model;

/// <summary>
/// Random commands on made-up machines and catalogues: what is decided is right, whatever came before. <c>ACRATE_MODEL</c> in the
/// environment is the number of commands, for a longer look.
/// </summary>
public sealed class ModelTests
{
    private const int Kinds = 18, MostSteps = 40, UsualCommands = 18_500;

    private static readonly long Sequences =
        (long.TryParse(Environment.GetEnvironmentVariable("ACRATE_MODEL"), out var wanted) ? wanted : UsualCommands)
        / (MostSteps / 2);

    private static readonly Gen<int[]> Worlds = Gen.Int[0, 9999].Array[50];

    private static readonly Gen<(int, int, int, int)[]> Steps =
        Gen.Select(Gen.Int[0, Kinds], Gen.Int[0, 99], Gen.Int[0, 99], Gen.Int[0, 99]).Array[1, MostSteps];

    [Fact]
    public void What_must_hold_holds_after_every_command() => Gen.Select(Worlds, Steps).Sample(Check, iter: Sequences);

    /// <summary>
    /// A line that only an older release of an app names: the plan cannot take it, and so the explanation may not either.
    /// </summary>
    [Fact]
    public void What_holds_an_app_back_is_named_although_an_older_release_would_open_a_line() =>
        Gen.Select(Worlds, Steps).Sample(Check, seed: "5jpIb8zmjbD5", iter: 1);

    private static void Check(int[] world, (int, int, int, int)[] steps)
    {
        var run = new ModelRun(world);
        try
        {
            foreach (var step in steps) run.Step(step);
            run.Settles();
        }
        catch (Exception fault) when (fault is not ModelException)
        {
            throw new ModelException($"{fault.Message}\n=== after\n{run.Words()}", fault);
        }
    }
}
