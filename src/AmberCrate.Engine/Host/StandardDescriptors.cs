namespace AmberCrate.Engine.Host;

/// <summary>Standard input, output and error of this process.</summary>
public static class StandardDescriptors
{
    /// <summary>Makes sure that all three are open: on /dev/null where a caller has closed them.</summary>
    public static void Open() => Posix.OpenStandardDescriptors();
}
