using System.Text;
using AmberCrate.Core.Placements;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Machine;

/// <summary>
/// The launcher of a command, a script for sh(1): it sets variables so that the program finds its own files, and becomes
/// the program. Its comments say the same for whoever looks into it, and for the check that follows it.
/// </summary>
/// <param name="Program">The program in the shelf entry.</param>
/// <param name="Folders">The folders that it sets variables for.</param>
/// <param name="Mapped">What is laid over the system for it.</param>
public sealed record LauncherText(InsidePath Program, IReadOnlyList<OwnFolders> Folders, IReadOnlyList<InsidePath> Mapped)
{
    private const string MappedMark = "# mapped ", BorrowsMark = "# borrows ";

    private const string Title = "#!/bin/sh\n# Written by acrate. It starts a program so that it finds its own files.\n",
        Starts = "# starts ", Here = "app=$(dirname \"$(dirname \"$(readlink -f \"$0\")\")\")\n";

    /// <summary>The apps whose folders the program finds too.</summary>
    public IReadOnlyList<AppId> Borrows { get; init; } = [];

    /// <summary>The launcher of a command.</summary>
    /// <param name="placement">What its release places.</param>
    /// <param name="command">The command.</param>
    public static LauncherText ForCommand(Placement placement, PlacedCommand command) =>
        new(command.Path, placement.Folders, placement.Mapped) { Borrows = placement.Borrows };

    /// <summary>Writes it.</summary>
    public string Compose()
    {
        var text = new StringBuilder(Title).Append(Starts).Append(Program).Append('\n').Append(OwnFoldersText.Marks(Folders));
        foreach (var path in Mapped) text.Append(MappedMark).Append(path).Append('\n');
        foreach (var app in Borrows) text.Append(BorrowsMark).Append(app).Append('\n');
        text.Append(Here);
        if (Borrows.Count > 0) text.Append("own=$app\n");
        foreach (var app in Borrows)
        {
            text.Append("app=$(readlink -f \"$own/").Append(FrontOf(app)).Append("\")\n")
                .Append("[ ! -r \"$app/").Append(OwnFoldersText.Place).Append("\" ] || . \"$app/").Append(OwnFoldersText.Place)
                .Append("\"\n");
        }

        if (Borrows.Count > 0) text.Append("app=$own\n");
        text.Append(OwnFoldersText.Settings(Folders));
        text.Append("program=\"$app/").Append(Quoted(Program.Text)).Append("\"\n");
        foreach (var line in Mapping()) text.Append(line).Append('\n');
        return text.Append(Mapped.Count > 0 ? "exec bwrap --dev-bind / / \"$@\"\n" : "exec \"$program\" \"$@\"\n").ToString();
    }

    /// <summary>Where the current version of an app is, seen from the shelf entry of another.</summary>
    /// <param name="app">The app.</param>
    public static string FrontOf(AppId app) => $"../../../front/{app}";

    /// <summary>
    /// Builds the arguments for bwrap(1). The launcher cannot make a folder in the real system. So it replaces the parent by a
    /// temporary folder, with everything from the real one in it, and adds the app's part. Names with a quote are left out.
    /// </summary>
    private IEnumerable<string> Mapping()
    {
        if (Mapped.Count == 0) yield break;
        yield return "args=";
        foreach (var parent in Mapped.GroupBy(path => path.Text[..path.Text.LastIndexOf('/')], StringComparer.Ordinal))
        {
            yield return $"if ! {{ {string.Join(" && ", parent.Select(path => $"[ -e /{path} ]"))}; }}; then";
            yield return $"    args=\"$args --tmpfs /{parent.Key}\"";
            yield return $"    for one in /{parent.Key}/* /{parent.Key}/.[!.]*; do";
            yield return "        target=$(readlink \"$one\")";
            yield return "        case \"$one$target\" in *\\'*) continue ;; esac";
            yield return "        if [ -L \"$one\" ]; then args=\"$args --symlink '$target' '$one'\"";
            yield return "        elif [ -e \"$one\" ]; then args=\"$args --bind '$one' '$one'\"";
            yield return "        fi";
            yield return "    done";
            yield return "fi";
            foreach (var path in parent) yield return $"args=\"$args --ro-bind \\\"\\$app\\\"/{path} /{path}\"";
        }

        yield return "eval \"set -- $args -- \\\"\\$program\\\" \\\"\\$@\\\"\"";
    }

    /// <summary>Reads one; null where the text is none that was written here.</summary>
    /// <param name="text">The script.</param>
    public static LauncherText? Read(string text)
    {
        if (!text.StartsWith(Title + Starts, StringComparison.Ordinal)) return null;
        var lines = text[Title.Length..].Split('\n').TakeWhile(line => line.StartsWith("# ", StringComparison.Ordinal)).ToList();
        if (!InsidePath.TryParse(lines[0][Starts.Length..], out var program)) return null;
        var marks = lines.Skip(1).ToList();
        var launcher = new LauncherText(program, OwnFoldersText.FoldersIn(marks), PathsIn(marks, MappedMark))
        {
            Borrows = [.. marks.Where(line => line.StartsWith(BorrowsMark, StringComparison.Ordinal))
                .Select(line => AppId.TryParse(line[BorrowsMark.Length..], out var id) ? id : null).OfType<AppId>()],
        };
        return launcher.Compose() == text ? launcher : null;
    }

    /// <summary>The paths that comments with a mark name.</summary>
    internal static IReadOnlyList<InsidePath> PathsIn(IReadOnlyList<string> comments, string mark) =>
    [
        .. comments.Where(line => line.StartsWith(mark, StringComparison.Ordinal))
            .Select(line => InsidePath.TryParse(line[mark.Length..], out var path) ? path : null).OfType<InsidePath>(),
    ];

    /// <summary>A path as it stands between double quotes in a shell.</summary>
    internal static string Quoted(string path) =>
        string.Concat(path.Select(letter => letter is '\\' or '"' or '$' or '`' ? $"\\{letter}" : $"{letter}"));
}
