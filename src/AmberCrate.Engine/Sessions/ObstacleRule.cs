namespace AmberCrate.Engine.Sessions;

/// <summary>What becomes of the other apps of a plan where something is in the way of one.</summary>
internal enum ObstacleRule
{
    /// <summary>They are carried out; the hindered app and what depends on it are left as they are.</summary>
    OthersGoOn,

    /// <summary>Nothing is begun: the user has named the apps, and wants all of them.</summary>
    AllOrNothing,
}
