namespace AmberCrate.Engine.Fetching;

/// <summary>How far inside an address lies. Who is outside may not send us further in.</summary>
public enum NetworkReach
{
    /// <summary>Anywhere.</summary>
    Internet,

    /// <summary>A private network.</summary>
    Private,

    /// <summary>This machine, or what is wired to it.</summary>
    Machine,
}
