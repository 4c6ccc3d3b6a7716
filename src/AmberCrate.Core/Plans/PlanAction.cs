namespace AmberCrate.Core.Plans;

/// <summary>What a plan does with an app.</summary>
public enum PlanAction
{
    /// <summary>Install it.</summary>
    Install,

    /// <summary>Replace it by a newer version.</summary>
    Upgrade,

    /// <summary>Replace it by an older version.</summary>
    Downgrade,

    /// <summary>Replace it by the file that its catalogue has by now for the same version.</summary>
    Replace,

    /// <summary>Put the installed version on again.</summary>
    Repair,

    /// <summary>Leave it as it is, and remember what is now asked for.</summary>
    Remember,

    /// <summary>Leave it as it is.</summary>
    Keep,

    /// <summary>Uninstall it.</summary>
    Remove,

    /// <summary>Nothing can be done: it is not offered.</summary>
    Cannot,
}
