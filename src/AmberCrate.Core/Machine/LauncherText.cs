using System.Text;
using AmberCrate.Core.Placements;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Machine;

/// <summary>
/// The launcher of a command, a script for sh(1): it sets the variables by which the program finds its own files, and becomes
/// the program. Its comments say the same for whoever looks into it, and for the check that follows it.
/// </summary>
/// <param name="Program">The program in the shelf entry.</param>
/// <param name="Folders">The folders that it is told of.</param>
public sealed record LauncherText(InsidePath Program, IReadOnlyList<OwnFolders> Folders)
{
    private const string Title = "#!/bin/sh\n# Written by acrate. It starts a program so that it finds its own files.\n",
        Starts = "# starts ", Here = "app=$(dirname \"$(dirname \"$(readlink -f \"$0\")\")\")\n";

    /// <summary>Writes it.</summary>
    public string Compose()
    {
        var text = new StringBuilder(Title).Append(Starts).Append(Program).Append('\n');
        foreach (var folders in Folders)
        {
            foreach (var path in folders.Paths)
                text.Append("# ").Append(OwnFolderRow.Find(folders.Kind).Word).Append(' ').Append(path).Append('\n');
        }

        text.Append(Here);
        foreach (var folders in Folders)
        {
            var row = OwnFolderRow.Find(folders.Kind);
            var own = string.Join(':', folders.Paths.Select(path => $"$app/{Quoted(path.Text)}"));

            // An empty part of such a list means the folder one stands in: there must be none.
            text.Append(row.Variable).Append("=\"").Append(own).Append(row.Otherwise.Length > 0
                ? $":${{{row.Variable}:-{row.Otherwise}}}"
                : $"${{{row.Variable}:+:${row.Variable}}}").Append("\"\nexport ").Append(row.Variable).Append('\n');
        }

        return text.Append("exec \"$app/").Append(Quoted(Program.Text)).Append("\" \"$@\"\n").ToString();
    }

    /// <summary>Reads one; null where the text is none that was written here.</summary>
    /// <param name="text">The script.</param>
    public static LauncherText? Read(string text)
    {
        if (!text.StartsWith(Title + Starts, StringComparison.Ordinal)) return null;
        var lines = text[Title.Length..].Split('\n').TakeWhile(line => line.StartsWith("# ", StringComparison.Ordinal)).ToList();
        if (!InsidePath.TryParse(lines[0][Starts.Length..], out var program)) return null;
        var folders = new List<OwnFolders>();
        foreach (var row in OwnFolderRow.All)
        {
            var mark = $"# {row.Word} ";
            List<InsidePath> paths = [.. lines.Skip(1).Where(line => line.StartsWith(mark, StringComparison.Ordinal))
                .Select(line => InsidePath.TryParse(line[mark.Length..], out var path) ? path : null).OfType<InsidePath>()];
            if (paths.Count > 0) folders.Add(new OwnFolders(row.Kind, paths));
        }

        var launcher = new LauncherText(program, folders);
        return launcher.Compose() == text ? launcher : null;
    }

    /// <summary>A path as it stands between double quotes in a shell.</summary>
    private static string Quoted(string path) =>
        string.Concat(path.Select(letter => letter is '\\' or '"' or '$' or '`' ? $"\\{letter}" : $"{letter}"));
}
