using AmberCrate.Core.Planning;

namespace AmberCrate.Cli.Views;

/// <summary>Lets a person untick items of a plan on the terminal. What cannot be there without them is unticked too.</summary>
internal sealed class PickView(Output output, Plan plan)
{
    private const int LinesForTheRest = 4;

    private readonly List<PlanItem> _items = [.. plan.Items.Where(item => item.Changes)];
    private readonly HashSet<string> _left = new(StringComparer.Ordinal);
    private int _at;

    /// <summary>Asks, until the person is content; null where they call it off.</summary>
    public Plan? Ask()
    {
        if (_items.Count == 0) return plan;
        while (true)
        {
            var following = PlanPicking.Following(plan, _left);
            output.Block(Lines(following));
            switch (Console.ReadKey(intercept: true))
            {
                case { Key: ConsoleKey.UpArrow } or { KeyChar: 'k' }:
                    _at = Math.Max(0, _at - 1);
                    break;
                case { Key: ConsoleKey.DownArrow } or { KeyChar: 'j' }:
                    _at = Math.Min(_items.Count - 1, _at + 1);
                    break;
                case { Key: ConsoleKey.Spacebar }:
                    Toggle(_items[_at].Id, following);
                    break;
                case { KeyChar: 'a' }:
                    if (_left.Count > 0) _left.Clear();
                    else _left.UnionWith(_items.Select(item => item.Id));
                    break;
                case { Key: ConsoleKey.Enter }:
                    output.Block([]);
                    return PlanPicking.Without(plan, PlanPicking.Following(plan, _left));
                case { Key: ConsoleKey.Escape } or { KeyChar: 'q' }:
                    output.Block([]);
                    return null;
            }
        }
    }

    private void Toggle(string id, IReadOnlySet<string> following)
    {
        // What went along with something else comes back with it only.
        if (!_left.Remove(id) && !following.Contains(id)) _left.Add(id);
    }

    private List<IReadOnlyList<Cell>> Lines(IReadOnlySet<string> following)
    {
        var room = Math.Max(3, Console.WindowHeight - LinesForTheRest);
        var first = Math.Clamp(_at - (room / 2), 0, Math.Max(0, _items.Count - room));
        var width = _items.Max(item => item.Id.Length);
        List<IReadOnlyList<Cell>> lines = [];
        for (var at = first; at < Math.Min(_items.Count, first + room); at++)
        {
            var item = _items[at];
            var mark = _left.Contains(item.Id) ? "[ ]" : following.Contains(item.Id) ? "[-]" : "[x]";
            lines.Add([new Cell(at == _at ? "> " : "  ", Tone.Attention), $"{mark} ", new Cell(item.Id.PadRight(width), following.Contains(item.Id) ? Tone.Quiet : Tone.Strong), $"  {Words.Of(item.Action)} {item.To ?? item.From}{(item.NeededBy.Count > 0 ? ", needed by " + string.Join(", ", item.NeededBy) : "")}"]);
        }

        lines.Add([new Cell($"{_items.Count - following.Count} of {_items.Count} picked · space: tick · a: all or none · enter: go on · q: leave", Tone.Quiet)]);
        return lines;
    }
}
