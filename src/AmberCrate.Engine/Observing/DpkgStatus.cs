using System.Globalization;
using System.Text;
using AmberCrate.Core.Machine;
using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Observing;

/// <summary>
/// The package database of a Debian-like system: the file <c>var/lib/dpkg/status</c>, whose format deb822(5) and the Debian
/// policy, 5.1, describe. Entries that cannot be read are counted and left out.
/// </summary>
/// <param name="root">The folder that counts as <c>/</c>.</param>
public sealed class DpkgStatus(string root) : ISystemObserver
{
    private const int BlockSize = 1 << 20, LongestEntry = 8 << 20;

    /// <summary>Where the file lies.</summary>
    public string Path => System.IO.Path.Combine(root, "var/lib/dpkg/status");

    /// <inheritdoc/>
    public IEnumerable<ObservedApp> Observe(Action<string> say, CancellationToken cancel)
    {
        var found = new List<ObservedApp>();
        var broken = 0;
        try
        {
            foreach (var entry in Entries(cancel))
            {
                if (entry is null || Read(entry.Value.Span) is not { } fields) broken++;
                else if (fields.Status.EndsWith(" installed", StringComparison.Ordinal)) found.Add(AppOf(fields));
            }
        }
        catch (Exception fault) when (fault is IOException or UnauthorizedAccessException)
        {
            say($"{Path} cannot be read to its end: {IoProblems.ToProblem(fault, "").Why}");
        }

        if (broken > 0) say($"{broken} of the entries in {Path} cannot be read and are left out");
        return found;
    }

    /// <summary>
    /// The installed packages with their versions; a name that an installed package only provides has the version it states for
    /// it, or none. Empty where the file cannot be read.
    /// </summary>
    public IReadOnlyDictionary<string, string?> ReadInstalled()
    {
        var found = new Dictionary<string, string?>(StringComparer.Ordinal);
        try
        {
            foreach (var entry in Entries(CancellationToken.None))
            {
                if (entry is null || Read(entry.Value.Span) is not { } fields
                    || !fields.Status.EndsWith(" installed", StringComparison.Ordinal)) continue;
                found[fields.Package] = fields.Version;
                foreach (var provided in fields.Provides.Split(',', StringSplitOptions.RemoveEmptyEntries))
                {
                    var words = provided.Trim().Split(' ', 2);
                    found.TryAdd(words[0], words is [_, var version] ? version.Trim('(', ')', '=', ' ') : null);
                }
            }
        }
        catch (Exception fault) when (fault is IOException or UnauthorizedAccessException)
        {
            return new Dictionary<string, string?>();
        }

        return found;
    }

    /// <summary>The entries of the file, each as its bytes; null for one that is too long to be one.</summary>
    private IEnumerable<ReadOnlyMemory<byte>?> Entries(CancellationToken cancel)
    {
        if (!File.Exists(Path)) yield break;
        using var file = new FileStream(Path, FileMode.Open, FileAccess.Read, FileShare.ReadWrite, 1, FileOptions.SequentialScan);
        var buffer = new byte[BlockSize];
        var (filled, isSkipping) = (0, false);
        while (true)
        {
            cancel.ThrowIfCancellationRequested();
            if (filled == buffer.Length)
            {
                if (buffer.Length < LongestEntry) Array.Resize(ref buffer, buffer.Length * 2);
                else
                {
                    if (!isSkipping) yield return null;
                    (filled, isSkipping) = (0, true);
                }
            }

            var read = file.Read(buffer, filled, buffer.Length - filled);
            filled += read;
            var from = 0;
            while (buffer.AsSpan(from, filled - from).IndexOf("\n\n"u8) is >= 0 and var length)
            {
                if (!isSkipping && length > 0) yield return buffer.AsMemory(from, length);
                isSkipping = false;
                from += length + 2;
                while (from < filled && buffer[from] == '\n') from++;
            }

            if (read == 0)
            {
                if (filled > from && !isSkipping) yield return buffer.AsMemory(from, filled - from);
                yield break;
            }

            buffer.AsSpan(from, filled - from).CopyTo(buffer);
            filled -= from;
        }
    }

    private static Fields? Read(ReadOnlySpan<byte> entry)
    {
        string? package = null, status = null, version = null, priority = null, provides = null;
        var (isEssential, size) = (false, (long?)null);
        foreach (var range in entry.Split((byte)'\n'))
        {
            var line = entry[range].TrimEnd((byte)'\r');
            if (line.Length == 0 || line[0] is (byte)' ' or (byte)'\t') continue;
            if (Value(line, "Package:"u8) is { } name) package = name;
            else if (Value(line, "Status:"u8) is { } state) status = state;
            else if (Value(line, "Version:"u8) is { } number) version = number;
            else if (Value(line, "Provides:"u8) is { } others) provides = others;
            else if (Value(line, "Priority:"u8) is { } rank) priority = rank;
            else if (Value(line, "Installed-Size:"u8) is { } kibibytes)
                size = long.TryParse(kibibytes, NumberStyles.None, CultureInfo.InvariantCulture, out var count)
                    && count < 1L << 40
                    ? count << 10
                    : null;
            else if ((Value(line, "Essential:"u8) ?? Value(line, "Protected:"u8) ?? Value(line, "Important:"u8)) == "yes")
                isEssential = true;
        }

        if (package is not { Length: > 0 } || status is null || !package.All(IsOfName)) return null;
        return status.EndsWith(" installed", StringComparison.Ordinal) && version is not { Length: > 0 } ? null
            : new Fields(package, status, version ?? "", isEssential || priority == "required", size, provides ?? "");
    }

    private static bool IsOfName(char c) => char.IsAsciiLetterOrDigit(c) || c is '+' or '-' or '.' or '_';

    private static string? Value(ReadOnlySpan<byte> line, ReadOnlySpan<byte> key) =>
        line.StartsWith(key) ? Encoding.UTF8.GetString(line[key.Length..].Trim((byte)' ')) : null;

    private ObservedApp AppOf(Fields fields) => new(ObservedKind.SystemPackage, fields.Package)
    {
        VersionText = fields.Version, IsProtected = fields.IsEssential, Size = fields.Size, Places = [Path],
        Removal = fields.IsEssential ? null : $"apt-get remove {fields.Package}",
    };

    private sealed record Fields(string Package, string Status, string Version, bool IsEssential, long? Size, string Provides);
}
