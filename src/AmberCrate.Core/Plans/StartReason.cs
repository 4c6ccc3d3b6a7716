namespace AmberCrate.Core.Plans;

/// <summary>Why a plan starts a program.</summary>
public enum StartReason
{
    /// <summary>It is the vendor's installer, which fills the app's folder.</summary>
    Installer,

    /// <summary>It is the app itself, once, to see whether it works.</summary>
    Check,

    /// <summary>It is the system's compiler for settings schemas, which prepares those of the app.</summary>
    Schemas,

    /// <summary>It is a program of the system that brings a list of the desktop up to date, at the end.</summary>
    DesktopList,

    /// <summary>It is a part of the app that from then on starts when a user signs in.</summary>
    SignIn,
}
