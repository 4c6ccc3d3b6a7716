namespace AmberCrate.Cli.Terminal;

/// <summary>The form of the documents that <c>--json</c> writes.</summary>
internal static class DocumentFormat
{
    /// <summary>
    /// The number that every document carries. It grows when a field changes its meaning; new fields leave it as it is.
    /// </summary>
    public const int Number = 1;
}
