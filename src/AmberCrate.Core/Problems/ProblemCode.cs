namespace AmberCrate.Core.Problems;

/// <summary>The closed family of things that can go wrong. Each code means one documented exit code.</summary>
public enum ProblemCode
{
    /// <summary>The command line, or a value given on it, cannot be understood.</summary>
    BadCommandLine,

    /// <summary>A name, version or file that was requested matches nothing.</summary>
    NothingMatched,

    /// <summary>A name fits more than one app.</summary>
    Ambiguous,

    /// <summary>The request is understood and refused: it conflicts with something that is there.</summary>
    Refused,

    /// <summary>
    /// A file does not verify: wrong digest or size, a card, catalogue or bundle with faults, an unsafe archive.
    /// </summary>
    NotVerified,

    /// <summary>The signatures of a catalogue have expired.</summary>
    Expired,

    /// <summary>The system lacks something that an app requires: a library, an interpreter, a program.</summary>
    SystemLacks,

    /// <summary>A vendor's installer failed.</summary>
    InstallerFailed,

    /// <summary>A server or catalogue cannot be reached or does not deliver.</summary>
    Unreachable,

    /// <summary>A folder or file may not be written or read.</summary>
    NoRights,

    /// <summary>An app is in use and is not changed under the hands of the user who uses it.</summary>
    InUse,

    /// <summary>Another run holds the lock of this root.</summary>
    Locked,

    /// <summary>The state on disk (records, full disk, a foreign file in the way) needs attention.</summary>
    StateNeedsAttention,

    /// <summary>The user interrupted the run.</summary>
    Interrupted,
}
