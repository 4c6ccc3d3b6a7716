namespace AmberCrate.Cli.Tables;

/// <summary>How a piece of text stands out on a terminal. A tone never carries meaning alone.</summary>
internal enum Tone
{
    /// <summary>As the rest.</summary>
    Plain,

    /// <summary>Less than the rest: headings, remarks.</summary>
    Quiet,

    /// <summary>What the eye should find first: ids.</summary>
    Strong,

    /// <summary>What needs attention: amber.</summary>
    Attention,
}
