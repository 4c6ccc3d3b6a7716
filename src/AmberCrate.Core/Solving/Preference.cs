namespace AmberCrate.Core.Solving;

/// <summary>What is preferred of one variable.</summary>
public abstract record Preference
{
    private Preference()
    {
    }

    /// <summary>That a term is true.</summary>
    public sealed record That(Term Term) : Preference;

    /// <summary>That a variable has its smallest possible value.</summary>
    public sealed record Smallest(int Variable) : Preference;
}
