using System.Reflection;
using System.Runtime.InteropServices;
using System.Security.Cryptography;
using AmberCrate.Engine.Decoding;
using AmberCrate.Engine.Storage;

namespace AmberCrate.Engine.Exporting;

/// <summary>Gives the versions of what the program is made of, so that a fix in one of them can be traced to a machine.</summary>
public static partial class ComponentVersions
{
    /// <summary>The build's text for a library that it links in without knowing its package.</summary>
    private const string UnknownPackage = "unknown";

    /// <summary>The version of this program.</summary>
    public static string Program => typeof(ComponentVersions).Assembly.GetName().Version!.ToString(3);

    /// <summary>The parts, with their versions and where they come from.</summary>
    public static IReadOnlyList<ComponentVersion> Run()
    {
        using var database = Database.Open(null);
        var (openSsl, sqlite) = (PackageOf("OpenSSL"), PackageOf("SQLite"));
        var sharpCompress = ReadVersion(typeof(SharpCompress.Archives.ArchiveFactory));
        return
        [
            new("OpenSSL", OpenSsl(SafeEvpPKeyHandle.OpenSslVersion), IsInside: openSsl is not null) { Package = Known(openSsl) },
            new("SQLite", database.Query("SELECT sqlite_version()", row => row.Text(0))[0]) { Package = Known(sqlite) },
            .. Zlib() is { } zlib ? new[] { new ComponentVersion("zlib", zlib) } : [],
            LibzstdStream.Version is { } zstd
                ? new("zstd", zstd, IsInside: false)
                : new("zstd", ReadVersion(typeof(ZstdSharp.DecompressionStream))),
            LiblzmaStream.Version is { } xz ? new("xz", xz, IsInside: false) : new("xz", sharpCompress),
            new("7z and bzip2", sharpCompress),
            new(".NET", Environment.Version.ToString()),
        ];
    }

    private static string ReadVersion(Type type) => type.Assembly.GetName().Version?.ToString(3) ?? "";

    /// <summary>What eng/publish wrote into the executable about a library; null where it did not link it in.</summary>
    private static string? PackageOf(string library) => typeof(ComponentVersions).Assembly
        .GetCustomAttributes<AssemblyMetadataAttribute>().FirstOrDefault(attribute => attribute.Key == library)?.Value;

    private static string? Known(string? package) => package == UnknownPackage ? null : package;

    /// <summary>The version of the zlib that .NET brings along; null where it is .NET's own library that does not tell.</summary>
    private static string? Zlib()
    {
        try
        {
            return Marshal.PtrToStringUTF8(ZlibVersion());
        }
        catch (Exception fault) when (fault is EntryPointNotFoundException or DllNotFoundException)
        {
            return null;
        }
    }

    [LibraryImport("libSystem.IO.Compression.Native", EntryPoint = "zlibVersion")]
    [DefaultDllImportSearchPaths(DllImportSearchPath.SafeDirectories)]
    private static partial nint ZlibVersion();

    /// <summary>OPENSSL_VERSION_NUMBER(3): 0xMNN00PP0 from 3.0 on.</summary>
    private static string OpenSsl(long number) => $"{number >> 28}.{(number >> 20) & 0xff}.{(number >> 4) & 0xff}";
}
