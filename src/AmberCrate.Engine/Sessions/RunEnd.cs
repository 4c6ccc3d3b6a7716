namespace AmberCrate.Engine.Sessions;

/// <summary>How far an operation that changes apps has gone.</summary>
public enum RunEnd
{
    /// <summary>Only the plan was wanted.</summary>
    PlanOnly,

    /// <summary>The user has called it off; nothing has been changed.</summary>
    CalledOff,

    /// <summary>There is nothing of an earlier run to retry.</summary>
    NothingLeft,

    /// <summary>The plan was carried out, as far as its report says.</summary>
    Ran,
}
