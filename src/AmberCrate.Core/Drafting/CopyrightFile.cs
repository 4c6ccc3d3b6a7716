using AmberCrate.Core.Cards;

namespace AmberCrate.Core.Drafting;

/// <summary>
/// The licence of a Debian package by its copyright file, where that is machine-readable: DEP-5, "Machine-readable
/// debian/copyright file", version 1.0.
/// </summary>
public static class CopyrightFile
{
    private const string Format = "Format:", Contact = "Upstream-Contact:", PackagingFiles = "debian/";

    /// <summary>Short names of DEP-5 whose SPDX names differ, in lower case.</summary>
    private static readonly Dictionary<string, string> Names = new(StringComparer.Ordinal)
    {
        ["expat"] = "MIT", ["mit"] = "MIT", ["mit/x11"] = "MIT", ["bsd-2-clause"] = "BSD-2-Clause",
        ["bsd-3-clause"] = "BSD-3-Clause",
        ["bsd-4-clause"] = "BSD-4-Clause", ["bsd"] = "BSD-3-Clause", ["zlib/libpng"] = "Zlib", ["boost-1.0"] = "BSL-1.0",
        ["bsl-1"] = "BSL-1.0", ["bsl"] = "BSL-1.0", ["artistic"] = "Artistic-1.0",
        ["perl"] = "GPL-1.0-or-later OR Artistic-1.0-Perl",
        ["fsfap"] = "FSFAP", ["public-domain"] = "LicenseRef-public-domain", ["cc0"] = "CC0-1.0", ["psf-2"] = "PSF-2.0",
        ["python"] = "PSF-2.0", ["apache-2"] = "Apache-2.0", ["apache"] = "Apache-2.0", ["mpl-2"] = "MPL-2.0",
        ["ofl-1.1"] = "OFL-1.1",
        ["sil-1.1"] = "OFL-1.1", ["gap"] = "FSFAP",
    };

    /// <summary>Families of GNU, whose names have a version and, for later ones too, a plus.</summary>
    private static readonly string[] Gnu = ["GPL", "LGPL", "AGPL", "GFDL"];

    /// <summary>Reads a file.</summary>
    /// <param name="text">Its text.</param>
    /// <returns>The licences of the software, joined to an SPDX expression, null if one was not understood; and the names of
    /// those.</returns>
    public static (string? Licence, IReadOnlyList<string> Unknown) Read(string text)
    {
        var lines = text.ReplaceLineEndings("\n").Split('\n');
        if (!lines.Take(5).Any(line => line.StartsWith(Format, StringComparison.Ordinal))) return (null, []);
        var (known, unknown) = (new List<string>(), new List<string>());
        foreach (var name in LicencesOf(lines))
        {
            if (ToSpdx(name) is { } spdx) known.Add(spdx);
            else unknown.Add(name);
        }

        var expression = string.Join(" AND ", known.Distinct().Select(one => known.Distinct().Skip(1).Any()
            && one.Contains(" OR ", StringComparison.Ordinal) ? $"({one})" : one));
        return (known.Count > 0 && unknown.Count == 0 && SpdxExpression.IsValid(expression) ? expression : null,
            [.. unknown.Distinct()]);
    }

    /// <summary>Who makes the software, without an address; null if the file does not name one person or group.</summary>
    /// <param name="text">Its text.</param>
    public static string? FindMaker(string text)
    {
        var lines = text.ReplaceLineEndings("\n").Split('\n');
        if (!lines.Take(5).Any(line => line.StartsWith(Format, StringComparison.Ordinal))) return null;
        var at = Array.FindIndex(lines, line => line.StartsWith(Contact, StringComparison.OrdinalIgnoreCase));
        if (at < 0 || (at + 1 < lines.Length && lines[at + 1].StartsWith(' '))) return null;
        var name = lines[at][Contact.Length..].Split('<', '(')[0].Trim().Trim('"');
        return name.Length > 0 && !name.Contains("://", StringComparison.Ordinal) && !name.AsSpan().ContainsAny('@', ',')
            ? name
            : null;
    }

    /// <summary>The licences of the paragraphs about files, except those of the packaging.</summary>
    private static IEnumerable<string> LicencesOf(string[] lines)
    {
        var (files, licence) = ("", "");
        foreach (var line in lines.Append(""))
        {
            if (line.StartsWith("Files:", StringComparison.OrdinalIgnoreCase)) files = line["Files:".Length..].Trim();
            else if (line.StartsWith("License:", StringComparison.OrdinalIgnoreCase)) licence = line["License:".Length..].Trim();
            else if (line.Trim().Length == 0)
            {
                if (files.Length > 0 && licence.Length > 0 && !files.StartsWith(PackagingFiles, StringComparison.Ordinal))
                    yield return licence;
                (files, licence) = ("", "");
            }
        }
    }

    /// <summary>
    /// A licence of DEP-5 as an SPDX expression: <c>GPL-2+ or Expat, and BSD-3-clause</c>. Null where a name in it is not known.
    /// </summary>
    /// <param name="text">The short name, or several, joined.</param>
    public static string? ToSpdx(string text)
    {
        var parts = new List<string>();
        foreach (var alternatives in text.Replace(", and ", " and ", StringComparison.OrdinalIgnoreCase)
            .Replace(",", " ", StringComparison.Ordinal).Split(" and ", StringSplitOptions.TrimEntries))
        {
            var names = alternatives.Split(" or ", StringSplitOptions.TrimEntries).Select(One).ToList();
            if (names.Contains(null)) return null;
            parts.Add(string.Join(" OR ", names));
        }

        return string.Join(" AND ", parts.Select(part => parts.Count > 1 && part.Contains(" OR ", StringComparison.Ordinal)
            ? $"({part})" : part));
    }

    private static string? One(string name)
    {
        // Exceptions are rare and have names of many kinds: they are looked at by the user.
        if (name.Contains(' ', StringComparison.Ordinal)) return null;
        if (Names.GetValueOrDefault(name.ToLowerInvariant()) is { } other) return other;
        if (Gnu.FirstOrDefault(family => name.StartsWith(family + "-", StringComparison.OrdinalIgnoreCase)) is { } gnu)
        {
            var version = name[(gnu.Length + 1)..];
            var isLater = version.EndsWith('+') || version.EndsWith("-or-later", StringComparison.OrdinalIgnoreCase);
            version = version.TrimEnd('+').Split('-')[0];
            if (!version.Contains('.', StringComparison.Ordinal)) version += ".0";
            var spdx = $"{gnu}-{version}-{(isLater ? "or-later" : "only")}";
            return IsKnown(spdx) ? spdx : null;
        }

        return IsKnown(name) ? name : null;
    }

    private static bool IsKnown(string licence) => SpdxExpression.IsValid(licence) && !SpdxLicences.UnknownIn(licence).Any();
}
