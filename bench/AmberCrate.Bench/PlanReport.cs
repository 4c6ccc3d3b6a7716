using System.Diagnostics;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;
using AmberCrate.Engine.Host;
using AmberCrate.SampleCatalogue;

namespace AmberCrate.Bench;

/// <summary>
/// <c>plan [--apps N]</c>: how long planning takes, for many apps of a large catalogue and for requests that are made to be hard.
/// </summary>
internal static class PlanReport
{
    private const int DefaultApps = 100_000;
    private const int References = 2000;
    private const int Rounds = 15;

    public static int Run(string[] options)
    {
        var folder = Directory.CreateTempSubdirectory("plan-");
        try
        {
            var forge = new CardForge(CatalogueMaker.Number(options, "--apps", DefaultApps));
            using var stage = new SearchStage(forge.MakeAll(), folder.FullName);
            var machine = new MachineState(HostPlatform.Current, []);
            var step = forge.Apps / References;
            var wanted = Enumerable.Range(0, References)
                .Select(at => new AppReference(null, forge.Make(at * step).Id.Text, null))
                .ToList();
            var times = new List<double>();
            Plan plan = null!;
            var allocated = 0L;
            for (var round = 0; round < Rounds; round++)
            {
                GC.Collect();
                var (begun, before) = (Stopwatch.GetTimestamp(), GC.GetTotalAllocatedBytes(precise: true));
                plan = new Planner(machine, stage.Offers()).Install(wanted);
                times.Add(Stopwatch.GetElapsedTime(begun).TotalMilliseconds);
                allocated = GC.GetTotalAllocatedBytes(precise: true) - before;
            }

            Console.WriteLine(
                $"{References} references against {forge.Apps} apps, ten releases each: {times.Min():0} ms "
                    + $"({times.Order().ElementAt(Rounds / 2):0} ms as a rule), {plan.Items.Count} items; cards are read anew "
                    + $"each time, {ByteSize.Words(allocated)} allocated");
        }
        finally
        {
            folder.Delete(recursive: true);
        }

        foreach (var world in HardWorld.All) Console.WriteLine($"{world.Name}: {Time(world)}");
        return 0;
    }

    private static Planner PlannerFor(HardWorld world) => new(new MachineState(HostPlatform.Current, []), world.Offers);

    private static string Time(HardWorld world)
    {
        var begun = Stopwatch.GetTimestamp();
        var outcome = "";
        try
        {
            outcome =
                $"a plan of {PlannerFor(world).Install(world.Wanted).Items.Count} items";
        }
        catch (ProblemException refused)
        {
            outcome = refused.Problem.What.Contains("time that planning", StringComparison.Ordinal)
                ? "given up, and said so"
                : $"none, for {refused.Problem.Details.Count} reasons";
        }

        return $"{outcome}, {Stopwatch.GetElapsedTime(begun).TotalMilliseconds:0} ms";
    }
}
