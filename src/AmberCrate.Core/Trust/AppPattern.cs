using AmberCrate.Core.Values;

namespace AmberCrate.Core.Trust;

/// <summary>Ids of apps, with <c>*</c> and <c>?</c> for any characters.</summary>
public static class AppPattern
{
    /// <summary>Whether a text is one: with letters instead of the wildcards it is an id.</summary>
    public static bool IsValid(string text) => text.Length > 0
        && AppId.TryParse(text.Replace('*', 'a').Replace('?', 'a'), out _);
}
