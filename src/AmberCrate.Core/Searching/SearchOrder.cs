namespace AmberCrate.Core.Searching;

/// <summary>The order of the results.</summary>
public enum SearchOrder
{
    /// <summary>The best match first.</summary>
    Match,

    /// <summary>By name.</summary>
    Name,

    /// <summary>The app with the newest release first.</summary>
    Newest,

    /// <summary>The app that is on the most machines first, as its catalogue has counted them.</summary>
    Popular,
}
