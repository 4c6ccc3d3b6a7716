namespace AmberCrate.Cli.CommandLine;

/// <summary>What options are for, in the order that help shows them.</summary>
internal enum OptionGroup
{
    /// <summary>Which apps are meant, or what is shown of them.</summary>
    Selection,

    /// <summary>What happens before anything changes.</summary>
    Plan,

    /// <summary>Files and installers.</summary>
    Files,

    /// <summary>Downloads and the network.</summary>
    Network,

    /// <summary>Apps that are in use, and runs that are at work.</summary>
    Waiting,

    /// <summary>Whose apps, and on which machine.</summary>
    Place,

    /// <summary>How results are shown.</summary>
    Output,
}
