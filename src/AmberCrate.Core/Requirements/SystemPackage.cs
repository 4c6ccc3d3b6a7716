using System.Diagnostics.CodeAnalysis;

namespace AmberCrate.Core.Requirements;

/// <summary>
/// A package of a system, if wished with the least version that will do: <c>name</c> or <c>name&gt;=version</c>.
/// </summary>
/// <param name="Name">The name, as the system's package manager knows it.</param>
/// <param name="Least">The least version, in the order of that system; null for any.</param>
public sealed record SystemPackage(string Name, string? Least)
{
    /// <summary>What one looks like, for messages.</summary>
    public const string Expected = "the name of a package, if wished with its least version, such as libgauze2 or libgauze2>=1.4";

    private const string Sign = ">=";

    /// <summary>Reads one; false when it is none.</summary>
    public static bool TryParse(string text, [NotNullWhen(true)] out SystemPackage? package)
    {
        var at = text.IndexOf(Sign, StringComparison.Ordinal);
        var (name, least) = at < 0 ? (text, null) : (text[..at], text[(at + Sign.Length)..]);
        package = IsName(name) && least is null or { Length: > 0 and <= 100 } && least?.All(IsOfVersion) != false
            ? new SystemPackage(name, least)
            : null;
        return package is not null;
    }

    /// <summary>
    /// Whether a text can be the name of a package of any family. It stands in a line that people paste into a shell, so that
    /// nothing is accepted that means something there, nor anything that reads as an option.
    /// </summary>
    public static bool IsName(string text) => text.Length is > 0 and <= 100 && char.IsAsciiLetterOrDigit(text[0])
        && text.All(letter => char.IsAsciiLetterOrDigit(letter) || letter is '+' or '-' or '.' or '_');

    /// <inheritdoc/>
    public override string ToString() => Least is null ? Name : Name + Sign + Least;

    private static bool IsOfVersion(char letter) =>
        char.IsAsciiLetterOrDigit(letter) || letter is '+' or '-' or '.' or '_' or ':' or '~' or '^';
}
