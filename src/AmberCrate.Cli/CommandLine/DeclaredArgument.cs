using System.CommandLine;

namespace AmberCrate.Cli.CommandLine;

/// <summary>An argument with all that help, completions and manual pages say of it.</summary>
/// <param name="name">Its name, in capitals.</param>
/// <param name="completion">What a shell proposes for it.</param>
internal sealed class DeclaredArgument<T>(string name, Completion completion) : Argument<T>(name), IDeclared
{
    /// <inheritdoc/>
    public Completion Completion => completion;

    /// <inheritdoc/>
    public IReadOnlyList<string> Words { get; init; } = [];
}
