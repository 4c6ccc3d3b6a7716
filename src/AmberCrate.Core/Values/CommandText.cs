using System.Text.RegularExpressions;
using AmberCrate.Core.Problems;

namespace AmberCrate.Core.Values;

/// <summary>Commands of this program that are named in texts for people to type.</summary>
public static partial class CommandText
{
    /// <summary>The option that stands for everyone's apps.</summary>
    public const string EveryoneOption = "--everyone";

    /// <summary>A text whose commands are meant for a scope.</summary>
    /// <param name="text">The text, with commands as this user would type them.</param>
    /// <param name="scope">The scope.</param>
    public static string In(InstallScope scope, string text) => scope == InstallScope.ThisUser ? text : Command().Replace(text, $"$0 {EveryoneOption}");

    /// <summary>A problem whose remedy is meant for a scope.</summary>
    /// <param name="problem">The problem, with commands as this user would type them.</param>
    /// <param name="scope">The scope.</param>
    public static Problem In(InstallScope scope, Problem problem) => scope == InstallScope.ThisUser ? problem : problem with { Remedy = In(scope, problem.Remedy) };

    [GeneratedRegex("\\bacrate (search|about|install|uninstall|prefetch|list|due|upgrade|export|equip|retry|catalogue (add|list|refresh|rank|pause|resume|drop))\\b(?! --(help|everyone))", RegexOptions.ExplicitCapture, 1000)]
    private static partial Regex Command();
}
