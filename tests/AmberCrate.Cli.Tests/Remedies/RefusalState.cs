namespace AmberCrate.Cli.Tests.Remedies;

/// <summary>A command that is refused, and the command that is printed as the way on.</summary>
/// <param name="Line">The command line that is refused.</param>
/// <param name="ExitCode">How it ends.</param>
/// <param name="Next">The command as it is printed after <c>next:</c>, within its sentence.</param>
internal sealed record RefusalState(string Line, int ExitCode, string Next)
{
    /// <summary>The command lines that lead there, after both folders of cards have been added as catalogues.</summary>
    public string[] Before { get; init; } = [];

    /// <summary>Does what takes no command.</summary>
    public Action<Sandbox> Make { get; init; } = _ => { };

    /// <summary>What the user types instead of the words in capitals, in their order.</summary>
    public (string Word, string Value)[] Fill { get; init; } = [];

    /// <summary>How the printed command ends.</summary>
    public int NextEnds { get; init; }

    /// <summary>How the refused command ends after the printed one; null where it is refused again, rightly.</summary>
    public int? Again { get; init; }
}
