using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Host;

/// <summary>
/// Where a machine keeps the certificates of authorities, which vouch for servers. OpenSSL knows only the place of
/// the distribution that it was made for, and the one inside this program was made for Debian's.
/// </summary>
internal static class AuthorityCertificates
{
    private const string FileVariable = "SSL_CERT_FILE", FolderVariable = "SSL_CERT_DIR";

    /// <summary>The place that the OpenSSL inside knows.</summary>
    private const string KnownFolder = "usr/lib/ssl/certs", KnownFile = "usr/lib/ssl/cert.pem";

    /// <summary>One file with all of them: Debian's, Arch's and Gentoo's; Fedora's and its kin's; SUSE's; Alpine's.</summary>
    private static readonly string[] Files =
    [
        "etc/ssl/certs/ca-certificates.crt", "etc/pki/ca-trust/extracted/pem/tls-ca-bundle.pem",
        "etc/pki/tls/certs/ca-bundle.crt",
        "var/lib/ca-certificates/ca-bundle.pem", "etc/ssl/ca-bundle.pem", "etc/ssl/cert.pem",
    ];

    /// <summary>Lets OpenSSL find them.</summary>
    /// <param name="variable">Reads an environment variable.</param>
    /// <returns>False where there are none on this machine.</returns>
    public static bool MakeKnown(Func<string, string?> variable)
    {
        if (IsKnown(variable, "/")) return true;
        if (Find("/") is not { } file) return false;
        Posix.SetVariable(FileVariable, file);
        return true;
    }

    /// <summary>Whether OpenSSL finds them by itself: in its own place, or where the user says.</summary>
    /// <param name="variable">Reads an environment variable.</param>
    /// <param name="root">The folder that counts as /.</param>
    internal static bool IsKnown(Func<string, string?> variable, string root)
    {
        if (variable(FileVariable) is { Length: > 0 } || variable(FolderVariable) is { Length: > 0 }) return true;
        var folder = Path.Combine(root, KnownFolder);
        return File.Exists(Path.Combine(root, KnownFile))
            || (Directory.Exists(folder) && Directory.EnumerateFileSystemEntries(folder).Any());
    }

    /// <summary>The file where a distribution keeps them; null where there is none.</summary>
    /// <param name="root">The folder that counts as /.</param>
    internal static string? Find(string root) => Files.Select(file => Path.Combine(root, file)).FirstOrDefault(File.Exists);
}
