namespace AmberCrate.Cli.CommandLine;

/// <summary>What the declaration of an option says for help.</summary>
internal interface IDeclaredOption : IDeclared
{
    /// <summary>What it is for.</summary>
    OptionGroup Group { get; }
}
