using CsCheck;

namespace AmberCrate.Engine.Tests.Model;

/// <summary>
/// Random commands on real folders: what the lists say is what is on the disk, and what check says is what is wrong with it.
/// <c>ACRATE_DISK_MODEL</c> in the environment is the number of commands, for a longer look.
/// </summary>
public sealed class DiskModelTests
{
    private const int Kinds = 18, MostSteps = 24, UsualCommands = 1_500;

    private static readonly long Sequences =
        (long.TryParse(Environment.GetEnvironmentVariable("ACRATE_DISK_MODEL"), out var wanted) ? wanted : UsualCommands)
        / (MostSteps / 2);

    private static readonly Gen<(int, int, int, int)[]> Steps =
        Gen.Select(Gen.Int[0, Kinds], Gen.Int[0, 99], Gen.Int[0, 99], Gen.Int[0, 99]).Array[1, MostSteps];

    [Fact]
    public Task What_is_said_is_so_after_every_command() => Steps.SampleAsync(
        async steps =>
        {
            using var run = new DiskRun();
            try
            {
                await run.BeginAsync();
                foreach (var step in steps) await run.StepAsync(step);
            }
            catch (Exception fault)
            {
                throw new InvalidOperationException($"{fault.Message}\n=== after\n{run.Words}", fault);
            }
        }, iter: Sequences);
}
