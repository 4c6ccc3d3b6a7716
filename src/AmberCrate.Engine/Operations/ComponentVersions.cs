using System.Security.Cryptography;
using AmberCrate.Engine.Archives;
using AmberCrate.Engine.Storage;

namespace AmberCrate.Engine.Operations;

/// <summary>Tells the versions of what the program is made of, so that a fix in one of them can be traced to a machine.</summary>
public static class ComponentVersions
{
    /// <summary>The version of this program.</summary>
    public static string Program => typeof(ComponentVersions).Assembly.GetName().Version!.ToString(3);

    /// <summary>The parts by name, with their versions and where they come from.</summary>
    public static IReadOnlyList<(string Name, string Version)> Run()
    {
        using var database = Database.Open(null);
        return
        [
            ("OpenSSL", OpenSsl(SafeEvpPKeyHandle.OpenSslVersion)),
            ("SQLite", database.Query("SELECT sqlite_version()", row => row.Text(0))[0]),
            ("zstd", LibzstdStream.Version is { } zstd
                ? $"{zstd}, the system's"
                : $"{Of(typeof(ZstdSharp.DecompressionStream))}, inside"),
            ("xz", LiblzmaStream.Version is { } xz
                ? $"{xz}, the system's"
                : $"{Of(typeof(SharpCompress.Archives.ArchiveFactory))}, inside"),
            ("7z and bzip2", $"{Of(typeof(SharpCompress.Archives.ArchiveFactory))}, inside"),
            (".NET", $"{Environment.Version}, inside"),
        ];
    }

    private static string Of(Type type) => type.Assembly.GetName().Version?.ToString(3) ?? "";

    /// <summary>OPENSSL_VERSION_NUMBER(3): 0xMNN00PP0 from 3.0 on.</summary>
    private static string OpenSsl(long number) => $"{number >> 28}.{(number >> 20) & 0xff}.{(number >> 4) & 0xff}";
}
