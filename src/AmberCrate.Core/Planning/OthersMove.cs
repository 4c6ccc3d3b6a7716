namespace AmberCrate.Core.Planning;

/// <summary>How far installed apps may change that the user did not name, so that the named ones can be installed.</summary>
internal enum OthersMove
{
    /// <summary>They stay as they are.</summary>
    Stay,

    /// <summary>They may become newer. Nothing becomes older unless an older version was requested.</summary>
    NewerOnly,

    /// <summary>They may also become older. Only an install does this, and asks the user again first.</summary>
    AnyVersion,
}
