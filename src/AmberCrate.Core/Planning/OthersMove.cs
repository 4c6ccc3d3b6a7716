namespace AmberCrate.Core.Planning;

/// <summary>How far installed apps may change that nobody asked to change, so that what was asked for can be had.</summary>
internal enum OthersMove
{
    /// <summary>They stay as they are.</summary>
    Stay,

    /// <summary>They may become newer. Nothing becomes older unless an older version was asked for.</summary>
    NewerOnly,

    /// <summary>They may also become older. Only an install does this, and the user is asked once more.</summary>
    AnyVersion,
}
