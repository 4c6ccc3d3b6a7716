using AmberCrate.Core.CardFiles;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Toml;

namespace AmberCrate.Core.Drafting;

/// <summary>Adds releases to the text of a card. What exists stays as it is: comments, order, spaces.</summary>
public static class CardEditing
{
    /// <summary>The text with one release more, or with artifacts for one platform more of a release that is there.</summary>
    /// <param name="text">The card's text.</param>
    /// <param name="file">Its file name, for messages.</param>
    /// <param name="release">The release, with a version.</param>
    /// <exception cref="ProblemException">The card has faults, has this file already, or is written in a way that cannot be added
    /// to.</exception>
    public static string With(string text, string file, ReleaseDraft release)
    {
        var faults = new List<FormatFault>();
        if (CardReader.Read(text, file, faults) is not { } card)
            throw Faulty($"{file} has faults", "correct them first", faults).ToException();
        var known = card.Releases.FirstOrDefault(other => other.Version == release.Version);
        if (known?.Artifacts.Any(artifact => artifact.Platform == release.Platform) == true)
            throw new Problem(
                ProblemCode.Refused, $"{file} has {release.Version} for {release.Platform} already", "nothing has been changed")
                .ToException();
        var lines = text.Split('\n').ToList();
        var tables = Headers(lines).ToList();
        var releases = tables.Where(table => table.Name == "releases" && table.IsArray).ToList();
        if (releases.Count != card.Releases.Count)
            throw new Problem(
                ProblemCode.Refused, $"the releases of {file} are not written as [[releases]] tables",
                "nothing has been changed; a release can be added to such tables only").ToException();
        var (at, added) = known is null
            ? (releases[0].Line, CardDraftText.Write(release, card.Requirements))
            : (EndOf(releases, tables, lines, text, file, release), CardDraftText.WriteArtifacts(release));
        at = BeforeComments(lines, at);
        var block = added.TrimEnd('\n').Split('\n');
        lines.InsertRange(at, at == lines.Count ? ["", .. block] : [.. block, ""]);
        var result = string.Join('\n', lines);
        return result.EndsWith('\n') ? result : result + "\n";
    }

    /// <summary>Where the release that is there ends: at the next one, or at the next table that is no part of it.</summary>
    private static int EndOf(
        List<Header> releases, List<Header> tables, List<string> lines, string text, string file, ReleaseDraft release)
    {
        var faults = new List<FormatFault>();
        var root = TomlText.Read(text, file, faults)!;
        var versions = ((TomlArray)root.Entries["releases"]).Items.Cast<TomlTable>().ToList();
        var index = versions.FindIndex(table =>
            table.Entries.GetValueOrDefault("version") is TomlString said && said.Value == release.Version!.Text);
        var from = releases[index].Line;
        return tables.Where(table => table.Line > from && (!table.Name.StartsWith("releases.", StringComparison.Ordinal)))
            .Select(table => table.Line).DefaultIfEmpty(lines.Count).First();
    }

    /// <summary>The comments and empty lines before a table belong to it.</summary>
    private static int BeforeComments(List<string> lines, int at)
    {
        while (at > 0 && at < lines.Count && lines[at - 1].TrimStart().StartsWith('#')) at--;
        while (at == lines.Count && at > 0 && lines[at - 1].Trim().Length == 0) lines.RemoveAt(--at);
        return at;
    }

    /// <summary>The lines at which tables begin. A line within a string of several lines is none.</summary>
    private static IEnumerable<Header> Headers(List<string> lines)
    {
        string? quote = null;
        for (var at = 0; at < lines.Count; at++)
        {
            var line = lines[at].Trim();
            if (quote is null && line.StartsWith('['))
            {
                var end = line.LastIndexOf(']');
                var isArray = line.StartsWith("[[", StringComparison.Ordinal);
                if (end > 0) yield return new Header(at, line[..(end + 1)].Trim('[', ']').Trim(), isArray);
            }

            foreach (var mark in (string[])["\"\"\"", "'''"])
            {
                for (var from = line.IndexOf(mark, StringComparison.Ordinal); from >= 0 && (quote is null || quote == mark);
                    from = line.IndexOf(mark, from + mark.Length, StringComparison.Ordinal)) quote = quote is null ? mark : null;
            }
        }
    }

    private static Problem Faulty(string what, string remedy, List<FormatFault> faults) =>
        new(ProblemCode.NotVerified, what, "nothing has been changed", remedy)
        {
            Details = [.. faults.Select(fault => fault.ToString())],
        };

    private sealed record Header(int Line, string Name, bool IsArray);
}
