using AmberCrate.Core.Values;

namespace AmberCrate.Core.Placements;

/// <summary>A command that is started once after an app was placed, to see that it works.</summary>
/// <param name="Command">The command of this app.</param>
/// <param name="Arguments">What it is started with.</param>
/// <param name="Output">What must be in what it writes; <see cref="VersionMark"/> means the version.</param>
/// <param name="Seconds">How long it may take.</param>
public sealed record StartCheck(FileName Command, IReadOnlyList<string> Arguments, string Output, int Seconds)
{
    /// <summary>What stands in the expected output for the version of the release.</summary>
    public const string VersionMark = "{version}";

    /// <summary>How long a check may take unless the card says otherwise, in seconds.</summary>
    public const int UsualSeconds = 10;

    /// <summary>The command as a user would type it.</summary>
    public string CommandLine => string.Join(' ', Arguments.Prepend(Command.Text));
}
