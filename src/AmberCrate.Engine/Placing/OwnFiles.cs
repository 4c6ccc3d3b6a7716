using System.Text;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Placements;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Placing;

/// <summary>
/// Adds to an unpacked artifact what it takes to find its own files: launchers for its commands, and compiled settings schemas.
/// </summary>
internal static class OwnFiles
{
    /// <summary>The program that compiles schemas.</summary>
    public const string SchemaCompiler = "glib-compile-schemas";

    private const UnixFileMode ProgramMode = UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute
        | UnixFileMode.GroupRead | UnixFileMode.GroupExecute | UnixFileMode.OtherRead | UnixFileMode.OtherExecute;

    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(30);

    /// <summary>Adds them.</summary>
    /// <param name="folder">The folder with the unpacked files.</param>
    /// <param name="placement">What the release places.</param>
    /// <exception cref="ProblemException">The artifact has such files itself, a folder is not there, or a schema does not
    /// compile.</exception>
    public static void Add(string folder, Placement placement)
    {
        foreach (var path in placement.Folders.SelectMany(folders => folders.Paths).Concat(placement.Schemas)
            .Concat(placement.Mapped))
        {
            if (!Path.Exists(Path.Combine(folder, path.Text)))
                throw Faulty($"the card names {path}, which is not in the artifact");
        }

        // Launchers of other apps read a file there: nothing that acrate did not write may be in that folder.
        if (Posix.IsThere(Path.Combine(folder, Placement.LauncherFolder)))
            throw Faulty($"the artifact holds {Placement.LauncherFolder}, where acrate puts launchers");
        if (placement.HasLauncher || placement.Folders.Count > 0)
            Directory.CreateDirectory(Path.Combine(folder, Placement.LauncherFolder));
        if (placement.HasLauncher) AddLaunchers(folder, placement);
        if (placement.Folders.Count > 0)
            File.WriteAllText(
                Path.Combine(folder, OwnFoldersText.Place), new OwnFoldersText(placement.Folders).Compose(),
                new UTF8Encoding(false));
        foreach (var schemas in placement.Schemas) Compile(folder, schemas.Text);
    }

    private static void AddLaunchers(string folder, Placement placement)
    {
        foreach (var command in placement.Commands)
        {
            var path = Path.Combine(folder, Placement.LauncherFolder, command.Name.Text);
            File.WriteAllText(path, LauncherText.ForCommand(placement, command).Compose(), new UTF8Encoding(false));
            File.SetUnixFileMode(path, ProgramMode);
        }
    }

    private static void Compile(string folder, string schemas)
    {
        // A link in the artifact could lead what is written anywhere.
        var parts = schemas.Split('/');
        if (Enumerable.Range(1, parts.Length).Any(
            count => new FileInfo(Path.Combine([folder, .. parts.Take(count)])).LinkTarget is not null))
            throw Faulty($"the folder {schemas} is a link, or behind one, and schemas are not compiled there");
        if (ProgramSearch.Trusted(SchemaCompiler) is not { } program)
            throw new Problem(
                ProblemCode.SystemLacks, $"its settings schemas cannot be compiled: this system lacks {SchemaCompiler}", "",
                "install the package that has it (libglib2.0-bin on Debian and its relatives, glib2 on others)").ToException();
        var target = Path.Combine(folder, schemas);
        var compiled = Path.Combine(target, "gschemas.compiled");
        if (Posix.IsThere(compiled)) File.Delete(compiled);
        var answer = SystemProgram.Ask(program, ["--strict", target], Patience);
        if (answer.Code != 0 || !File.Exists(compiled))
            throw Faulty($"its settings schemas do not compile: {answer.Errors.Trim().Split('\n')[0]}");
    }

    private static ProblemException Faulty(string what) =>
        new Problem(ProblemCode.NotVerified, what, remedy: "tell the catalogue's maintainer").ToException();
}
