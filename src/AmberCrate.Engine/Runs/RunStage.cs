namespace AmberCrate.Engine.Runs;

/// <summary>What is being done with an item.</summary>
public enum RunStage
{
    /// <summary>The artifact is being downloaded and hashed.</summary>
    Fetching,

    /// <summary>It is being unpacked.</summary>
    Unpacking,

    /// <summary>The version is put in front and its things are placed and verified.</summary>
    Placing,

    /// <summary>The app is being uninstalled.</summary>
    Removing,
}
