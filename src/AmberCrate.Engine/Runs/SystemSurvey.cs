using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Requirements;
using AmberCrate.Engine.Observing;

namespace AmberCrate.Engine.Runs;

/// <summary>Looks before a download at what the cards of a plan say that their apps require of the system.</summary>
/// <param name="system">Looks at the system.</param>
internal sealed class SystemSurvey(SystemCheck system)
{
    private const int MostNamed = 5;

    /// <summary>Leaves apps as they are if the system lacks something for them; each says what.</summary>
    /// <param name="plan">The plan.</param>
    public Plan LeaveOutLacking(Plan plan)
    {
        var (lacking, obstacles) = (new Dictionary<string, IReadOnlyList<SystemLack>>(StringComparer.Ordinal),
            new Dictionary<string, Problem>(StringComparer.Ordinal));
        foreach (var item in plan.Items.Where(item => item.Fetches))
        {
            if (item.Offer!.Card.RequirementsOf(item.Release!) is not { Count: > 0 } requirements) continue;
            var lacks = system.FindLacks(requirements, item.Delivery!.Platform);
            if (lacks.Count == 0) continue;
            lacking[item.Id] = lacks;
            obstacles[item.Id] = new Problem(
                ProblemCode.SystemLacks, $"{item.Id} {item.To} needs {SystemLack.Name(lacks)}, which this system lacks",
                remedy: Remedy(lacks));
        }

        var left = PlanPicking.Hindered(plan, obstacles);
        return obstacles.Count == 0 ? plan : left with
        {
            Items = [.. left.Items.Select(
                item => lacking.GetValueOrDefault(item.Id) is { } lacks
                    ? item with { Lacks = lacks, Notes = [PlanNote.SystemLacks(lacks)] }
                    : item)],
            InstallLine = system.ComposeInstallLine(lacking.Values.SelectMany(lacks => lacks)),
        };
    }

    /// <summary>What to do about what is lacking.</summary>
    /// <param name="lacks">What is lacking; at least one.</param>
    public string Remedy(IReadOnlyList<SystemLack> lacks)
    {
        var unknown = lacks.Where(lack => lack is { Package: null, Found: null }).Select(lack => lack.Requirement.Words).ToList();
        var line = system.ComposeInstallLine(lacks) ?? "";
        return string.Join("; ", new[]
        {
            line,
            line.Length == 0 && unknown.Count > 0
                ? $"search the system's packages for {string.Join(", ", unknown.Take(MostNamed))}"
                : "",
            lacks.Any(lack => lack.Found is not null)
                ? "take a release that is made for this system, or bring the system up to date"
                : "",
        }.Where(words => words.Length > 0));
    }
}
