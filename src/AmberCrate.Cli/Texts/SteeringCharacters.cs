namespace AmberCrate.Cli.Texts;

/// <summary>Characters that steer a terminal, or the reading order of a line.</summary>
internal static class SteeringCharacters
{
    /// <summary>
    /// C0 and C1 controls, and the marks of the Unicode bidirectional algorithm (UAX #9) that reorder what follows.
    /// </summary>
    public static bool Has(char c) =>
        char.IsControl(c) || c is '\u200E' or '\u200F' or '\u061C' or '\u2028' or '\u2029' or (>= '\u202A' and <= '\u202E')
            or (>= '\u2066' and <= '\u2069');
}
