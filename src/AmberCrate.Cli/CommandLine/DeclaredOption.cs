using System.CommandLine;

namespace AmberCrate.Cli.CommandLine;

/// <summary>An option with all that help, completions and manual pages say of it.</summary>
/// <param name="group">What it is for.</param>
/// <param name="name">Its name, with the hyphens.</param>
/// <param name="aliases">Its short name.</param>
internal sealed class DeclaredOption<T>(OptionGroup group, string name, params string[] aliases)
    : Option<T>(name, aliases), IDeclaredOption
{
    /// <inheritdoc/>
    public OptionGroup Group => group;

    /// <inheritdoc/>
    public Completion Completion { get; init; }

    /// <inheritdoc/>
    public IReadOnlyList<string> Words { get; init; } = [];
}
