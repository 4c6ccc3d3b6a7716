using AmberCrate.Core.Values;

namespace AmberCrate.Core.Plans;

/// <summary>The words for <see cref="StartReason"/>, in JSON.</summary>
public static class StartWords
{
    /// <summary>A word for each reason.</summary>
    public static WordTable<StartReason> Reasons { get; } = new(
        (StartReason.Installer, "installer"), (StartReason.Check, "check"), (StartReason.Schemas, "schemas"),
        (StartReason.DesktopList, "desktop-list"),
        (StartReason.SignIn, "sign-in"));
}
