namespace AmberCrate.Core.Toml;

/// <summary>A table.</summary>
public sealed record TomlTable(int Line) : TomlValue(Line)
{
    /// <summary>The entries in the order they were written.</summary>
    public OrderedDictionary<string, TomlValue> Entries { get; } = [];

    /// <inheritdoc/>
    public override string Kind => "a table";

    /// <summary>The line of the value at a path such as <c>releases[2].version</c>, or of the nearest one around it.</summary>
    public int LineOf(string path)
    {
        TomlValue here = this;
        foreach (var part in path.Split('.', '['))
        {
            TomlValue? next = here switch
            {
                TomlTable table => table.Entries.GetValueOrDefault(part),
                TomlArray array when int.TryParse(part.TrimEnd(']'), out var index) && index <= array.Items.Count =>
                    array.Items[index - 1],
                _ => null,
            };
            if (next is null) break;
            here = next;
        }

        return here.Line;
    }
}
