namespace AmberCrate.Core.Cards;

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
