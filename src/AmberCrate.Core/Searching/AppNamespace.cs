using AmberCrate.Core.Values;

namespace AmberCrate.Core.Searching;

/// <summary>
/// Takes an id that begins with a domain in reverse, as AppStream advises, apart: <c>org.battenworks.ScrimPaint</c>. The domain
/// says who made an app and is not part of its name.
/// </summary>
public static class AppNamespace
{
    private static readonly HashSet<string> Domains = new(
        ("com org net io edu gov info app dev me moe re work page site at au be br ca cc ch co cz de dk es eu fi fr im it jp nl "
            + "no pl pt ru se sm tv uk us").Split(' '),
        StringComparer.Ordinal);

    // Places where many people keep their works: what follows is whose it is.
    private static readonly HashSet<string> Hosts = new(
        ["github", "gitlab", "sourceforge", "bitbucket", "codeberg", "launchpad"], StringComparer.Ordinal);

    /// <summary>The domain, and the rest of an id; no domain where it does not begin with one.</summary>
    public static (string Domain, string Name) Split(AppId id)
    {
        var parts = id.Text.Split('.');
        if (parts.Length < 3 || !Domains.Contains(parts[0])) return ("", id.Text);
        var domain = Math.Min(Hosts.Contains(parts[1]) && parts.Length > 3 ? 3 : 2, parts.Length - 1);
        return (string.Join(' ', parts[1..domain].Where(part => !Hosts.Contains(part))), string.Join('.', parts[domain..]));
    }
}
