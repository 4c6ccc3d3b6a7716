using AmberCrate.Core.Values;

namespace AmberCrate.Core.Placements;

/// <summary>The shells that completions can be placed for.</summary>
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
    /// <summary>Shells that completions can be placed for.</summary>
    public static WordTable<CompletionShell> Shells { get; } = new(
        (CompletionShell.Bash, "bash"),
        (CompletionShell.Zsh, "zsh"),
        (CompletionShell.Fish, "fish"));
}
