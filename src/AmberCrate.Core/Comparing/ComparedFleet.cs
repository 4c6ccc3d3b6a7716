namespace AmberCrate.Core.Comparing;

/// <summary>Many machines compared with one bundle.</summary>
/// <param name="Wanted">The wanted state.</param>
/// <param name="Machines">The machines, the worst first.</param>
/// <param name="Unreadable">Files that are no export, with the faults of each.</param>
public sealed record ComparedFleet(
    ComparedSide Wanted, IReadOnlyList<Comparison> Machines, IReadOnlyList<ComparedSide> Unreadable)
{
    /// <summary>Compares machines with the wanted state.</summary>
    public static ComparedFleet Compare(ComparedSide wanted, IEnumerable<ComparedSide> machines)
    {
        var all = machines.ToList();
        return new ComparedFleet(
            wanted,
            [.. all.Where(side => side.Fault is null).AsParallel().AsOrdered().Select(side => Comparison.Compare(wanted, side))
                .AsEnumerable()
                .OrderByDescending(Weight).ThenBy(one => one.There.Name, StringComparer.OrdinalIgnoreCase)],
            [.. all.Where(side => side.Fault is not null).OrderBy(side => side.Name, StringComparer.OrdinalIgnoreCase)]);
    }

    /// <summary>The apps that differ somewhere, those that differ most first, with the number of machines.</summary>
    public IReadOnlyList<(string App, int Machines)> Apps => [.. Machines
        .SelectMany(machine => machine.Differences.Select(one => one.App).Distinct())
        .GroupBy(app => app, StringComparer.Ordinal)
        .Select(group => (group.Key, group.Count()))
        .OrderByDescending(pair => pair.Item2).ThenBy(pair => pair.Key, StringComparer.Ordinal)];

    /// <summary>The number of machines that differ.</summary>
    public int Drifted => Machines.Count(machine => machine.Differences.Count > 0);

    /// <summary>How bad a machine is: what is damaged or missing weighs more than what is merely older or more.</summary>
    private static (int, int) Weight(Comparison machine) => (
        machine.Differences.Count(one => one.Kind != DifferenceKind.OnlyThere && one.Kind <= DifferenceKind.Older),
        machine.Differences.Count);
}
