using AmberCrate.Core.Placements;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Installers;
using AmberCrate.Engine.Observing;
using AmberCrate.Engine.Placing;

namespace AmberCrate.Engine.Tests.Placing;

/// <summary>Launchers and schemas on the shelf, with the real shell and the real compiler.</summary>
public sealed class OwnFilesTests : IDisposable
{
    private const string Schema = """
        <schemalist><schema id="example.scrim" path="/example/scrim/"><key name="a" type="b"><default>true</default></key>
        </schema></schemalist>
        """;

    private readonly TemporaryFolder _folder = new();

    public OwnFilesTests()
    {
        Write("app/a \"b\" $HOME `x`/scrim", "#!/bin/sh\necho \"$PYTHONPATH|$XDG_DATA_DIRS|$LD_LIBRARY_PATH|$*\"\n");
        File.SetUnixFileMode(_folder["app", "a \"b\" $HOME `x`", "scrim"], (UnixFileMode)493);
        Write("app/share/x", "");
        Write("app/li$b/libcloth.so.1", "");
    }

    [Fact]
    public void A_launcher_hands_over_folders_and_arguments_whatever_the_paths_are_called()
    {
        OwnFiles.Add(_folder["app"], Place());
        File.CreateSymbolicLink(_folder["front"], _folder["app"]);
        File.CreateSymbolicLink(_folder["scrim"], "front/.launch/scrim");
        var app = _folder["app"];
        Started([]).ShouldBe($"{app}/share|{app}/share:/usr/local/share:/usr/share|{app}/li$b|a  b *");
        Started(["PYTHONPATH=/p", "XDG_DATA_DIRS=/d", "LD_LIBRARY_PATH=/l"]).ShouldBe(
            $"{app}/share:/p|{app}/share:/d|{app}/li$b:/l|a  b *");

        string Started(string[] variables) => SystemProgram.Ask(
            "/usr/bin/env", ["-i", "PATH=/usr/bin:/bin", .. variables, _folder["scrim"], "a  b", "*"],
            TimeSpan.FromSeconds(20)).Output.Trim();
    }

    [Fact]
    public void An_app_without_commands_lends_its_folders_and_has_no_launcher()
    {
        var place = Place() with { Commands = [] };
        OwnFiles.Add(_folder["app"], place);
        place.HasLauncher.ShouldBeFalse();
        Directory.EnumerateFileSystemEntries(_folder["app", ".launch"]).Select(Path.GetFileName).ShouldBe([".folders"]);
        LauncherFile.FoldersLent(_folder["app"], OwnFolderKind.Libraries).ShouldBe([_folder["app", "li$b"]]);
    }

    [Fact]
    public void What_other_launchers_would_read_does_not_come_from_an_artifact()
    {
        Write("app/.launch/.folders", "echo mine\n");
        Should.Throw<ProblemException>(() => OwnFiles.Add(_folder["app"], Placement.Nothing)).Problem.What
            .ShouldBe("the artifact holds .launch, where acrate puts launchers");
    }

    [Fact]
    public void A_mapped_start_lays_files_over_the_system_for_one_program_only()
    {
        if (!new Confinement().IsConfined) return;
        var name = $"acrate-test-{Guid.NewGuid():N}";
        Write($"app/usr/share/{name}/cloth", "gauze");
        Write("app/a \"b\" $HOME `x`/scrim", $"#!/bin/sh\ncat /usr/share/{name}/cloth; ls -d /usr/share/doc; echo \"$*\"\n");
        OwnFiles.Add(_folder["app"], Place() with { Mapped = [InsidePath.Parse($"usr/share/{name}")] });
        var answer = SystemProgram.Ask(_folder["app", ".launch", "scrim"], ["a  b", "$x"], TimeSpan.FromSeconds(20));
        (answer.Output, answer.Code).ShouldBe(("gauze/usr/share/doc\na  b $x\n", 0));
        Directory.Exists($"/usr/share/{name}").ShouldBeFalse();
    }

    [Fact]
    public void The_check_follows_a_launcher_to_its_program()
    {
        Write("app/a \"b\" $HOME `x`/scrim", "#!/usr/bin/odd\nopen('/usr/share/cloth')\n");
        Write("app/share/cloth", "");
        OwnFiles.Add(_folder["app"], Place());
        var check = new ProgramCheck("/", "/usr/bin", new SystemPackages("/"));
        check.Faults("scrim", _folder["app", ".launch", "scrim"]).ShouldBe(
            ["scrim is a script for /usr/bin/odd, which this machine lacks"]);
        check.Displaced(_folder["app", ".launch", "scrim"], _folder["app"]).ShouldBe(["/usr/share/cloth"]);
    }

    [Theory]
    [InlineData("a /usr/share/a, \"/usr/bin:/opt/b/c\" $X/usr/share/no ~/etc/no /usr/ x/usr/no /lib/d.",
        "/usr/share/a /usr/bin /opt/b/c /lib/d")]
    [InlineData("\0/usr/share/scrim\0\u007f/usr/share/scrim\0/home/x", "/usr/share/scrim")]
    [InlineData("", "")]
    [InlineData("/", "")]
    public void Paths_are_found_in_any_file(string text, string expected) =>
        string.Join(' ', NamedPaths.Find(System.Text.Encoding.ASCII.GetBytes(text))).ShouldBe(expected);

    [Theory]
    [InlineData("48B8", "/usr/sha", "/usr/share/*")]
    [InlineData("49BA", "/usr/lib", "/usr/lib/*")]
    [InlineData("48B9", "/usr/loc", "/usr/loc")]
    [InlineData("00B8", "/usr/lib", "/usr/lib")]
    public void A_path_that_a_compiler_put_into_an_instruction_is_seen(string instruction, string text, string expected) =>
        NamedPaths.Find([.. Convert.FromHexString(instruction), .. System.Text.Encoding.ASCII.GetBytes(text), 0x48, 0x89])
            .Select(named => named.TrimEnd('H')).ShouldBe([expected]);

    [Fact]
    public void A_program_whose_library_composes_a_path_is_not_called_sure_to_start()
    {
        byte[] elf = [0x7F, (byte)'E', (byte)'L', (byte)'F', 2, 1];
        Write("app/usr/share/scrim-cloth/a", "");
        Write("app/usr/share/lintian/a", "");
        Write("app/li$b/libcloth.so.1", "");
        File.WriteAllBytes(_folder["app", "li$b", "libcloth.so.1"], [.. elf, 0x48, 0xB8, .. "/usr/sha"u8, 0x48, 0x89]);
        OwnFiles.Add(_folder["app"], Place());
        var check = new ProgramCheck("/", "/usr/bin", new SystemPackages("/"));
        check.Displaced(_folder["app", ".launch", "scrim"], _folder["app"]).ShouldBe(["/usr/share/scrim-cloth"]);
    }

    [Fact]
    public void What_the_artifact_must_not_have_or_lacks_is_refused()
    {
        Refused(Place("nothing")).ShouldContain("the card names nothing, which is not in the artifact");
        Directory.CreateDirectory(_folder["app", ".launch"]);
        Refused(Place()).ShouldContain("where acrate puts launchers");
        Directory.Delete(_folder["app", ".launch"]);
        File.CreateSymbolicLink(_folder["app", ".launch"], "/nowhere");
        Refused(Place()).ShouldContain("where acrate puts launchers");
        File.Delete(_folder["app", ".launch"]);
        Write("elsewhere/schemas/a.gschema.xml", Schema);
        File.CreateSymbolicLink(_folder["app", "linked"], _folder["elsewhere"]);
        Refused(new Placement { Schemas = [InsidePath.Parse("linked/schemas")] }).ShouldContain("is a link, or behind one");
        Directory.GetFiles(_folder["elsewhere", "schemas"]).ShouldHaveSingleItem();
    }

    [Fact]
    public void Schemas_are_compiled_or_the_app_is_refused()
    {
        if (ProgramSearch.Trusted(OwnFiles.SchemaCompiler) is null) return;
        Write("app/schemas/a.gschema.xml", Schema);
        File.CreateSymbolicLink(_folder["app", "schemas", "gschemas.compiled"], _folder["victim"]);
        Write("victim", "mine");
        var place = new Placement { Schemas = [InsidePath.Parse("schemas")] };
        OwnFiles.Add(_folder["app"], place);
        new FileInfo(_folder["app", "schemas", "gschemas.compiled"]).LinkTarget.ShouldBeNull();
        File.ReadAllText(_folder["victim"]).ShouldBe("mine");
        Write("app/schemas/b.gschema.xml", "<schemalist><schema id=\"x\"><key name=\"no\"/></schema></schemalist>");
        Refused(place).ShouldStartWith("its settings schemas do not compile: ");
    }

    public void Dispose() => _folder.Dispose();

    private static Placement Place(string data = "share") => new()
    {
        Commands =
        [
            new PlacedCommand(
                FileName.TryParse("scrim", out var name) ? name : null!, InsidePath.Parse("a \"b\" $HOME `x`/scrim")),
        ],
        Folders =
        [
            new OwnFolders(OwnFolderKind.Python, [InsidePath.Parse(data)]),
            new OwnFolders(OwnFolderKind.Data, [InsidePath.Parse(data)]),
            new OwnFolders(OwnFolderKind.Libraries, [InsidePath.Parse("li$b")]),
        ],
    };

    private string Refused(Placement place) =>
        Should.Throw<ProblemException>(() => OwnFiles.Add(_folder["app"], place)).Problem.What;

    private void Write(string path, string content)
    {
        Directory.CreateDirectory(Path.GetDirectoryName(_folder[path])!);
        File.WriteAllText(_folder[path], content);
    }
}
