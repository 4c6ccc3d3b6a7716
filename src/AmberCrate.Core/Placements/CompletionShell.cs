using AmberCrate.Core.Values;

namespace AmberCrate.Core.Placements;

/// <summary>The shells for which completions can be placed.</summary>
public enum CompletionShell
{
    /// <summary>bash, with the bash-completion package.</summary>
    Bash,

    /// <summary>zsh.</summary>
    Zsh,

    /// <summary>fish.</summary>
    Fish,
}

/// <summary>The words for <see cref="CompletionShell"/>.</summary>
public static class ShellWords
{
    /// <summary>Shells for which completions can be placed.</summary>
    public static WordTable<CompletionShell> Shells { get; } = new(
        (CompletionShell.Bash, "bash"),
        (CompletionShell.Zsh, "zsh"),
        (CompletionShell.Fish, "fish"));
}
