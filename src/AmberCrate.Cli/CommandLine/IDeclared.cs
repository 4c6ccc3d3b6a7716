namespace AmberCrate.Cli.CommandLine;

/// <summary>What the declaration of an option or argument says for help, completions and manual pages.</summary>
internal interface IDeclared
{
    /// <summary>What a shell proposes for its value.</summary>
    Completion Completion { get; }

    /// <summary>The words that are possible; empty where there is no fixed set.</summary>
    IReadOnlyList<string> Words { get; }
}
