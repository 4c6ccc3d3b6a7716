using AmberCrate.Core.Values;

namespace AmberCrate.Core.Placements;

/// <summary>How the files of manual pages are called.</summary>
public static class ManualPageName
{
    /// <summary>
    /// The section that the name of a manual page ends in, such as 1 for <c>scrim-paint.1.gz</c>; null where it ends in none.
    /// </summary>
    public static char? SectionOf(FileName page)
    {
        var name = page.Text.EndsWith(".gz", StringComparison.Ordinal) ? page.Text[..^3] : page.Text;
        var dot = name.LastIndexOf('.');
        return dot > 0 && dot + 1 < name.Length && name[dot + 1] is >= '1' and <= '9'
            && name[(dot + 2)..].All(char.IsAsciiLetterLower) ? name[dot + 1] : null;
    }
}
