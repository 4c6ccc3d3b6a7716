using AmberCrate.Core.Drafting;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Placements;
using AmberCrate.Core.Tests.Cards;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Tests.Machine;

/// <summary>Launchers, and the folders that a draft names for them.</summary>
public sealed class LauncherTextTests
{
    [Fact]
    public void A_launcher_says_what_it_does_and_is_recognised()
    {
        var launcher = new LauncherText(InsidePath.Parse("usr/bin/scrim"),
        [
            Folders(OwnFolderKind.Python, "usr/lib/python3/dist-packages"), Folders(OwnFolderKind.Data, "usr/share", "share"),
        ], []);
        launcher.Compose().ShouldBe("""
            #!/bin/sh
            # Written by acrate. It starts a program so that it finds its own files.
            # starts usr/bin/scrim
            # python usr/lib/python3/dist-packages
            # data usr/share
            # data share
            app=$(dirname "$(dirname "$(readlink -f "$0")")")
            PYTHONPATH="$app/usr/lib/python3/dist-packages${PYTHONPATH:+:$PYTHONPATH}"
            export PYTHONPATH
            XDG_DATA_DIRS="$app/usr/share:$app/share:${XDG_DATA_DIRS:-/usr/local/share:/usr/share}"
            export XDG_DATA_DIRS
            program="$app/usr/bin/scrim"
            exec "$program" "$@"

            """);
        LauncherText.Read(launcher.Compose())!.Compose().ShouldBe(launcher.Compose());
        LauncherText.Read(launcher.Compose() + "reboot\n").ShouldBeNull();
        LauncherText.Read("#!/bin/sh\n").ShouldBeNull();
        LauncherText.Read("").ShouldBeNull();
    }

    [Fact]
    public void A_launcher_borrows_the_folders_of_other_apps_which_say_themselves_where_these_are()
    {
        var launcher = new LauncherText(InsidePath.Parse("usr/bin/scrim"), [], [])
        {
            Borrows = [AppId.Parse("gauze"), AppId.Parse("b.c")],
        };
        launcher.Compose().ShouldBe("""
            #!/bin/sh
            # Written by acrate. It starts a program so that it finds its own files.
            # starts usr/bin/scrim
            # borrows gauze
            # borrows b.c
            app=$(dirname "$(dirname "$(readlink -f "$0")")")
            own=$app
            app=$(readlink -f "$own/../../../front/gauze")
            [ ! -r "$app/.launch/.folders" ] || . "$app/.launch/.folders"
            app=$(readlink -f "$own/../../../front/b.c")
            [ ! -r "$app/.launch/.folders" ] || . "$app/.launch/.folders"
            app=$own
            program="$app/usr/bin/scrim"
            exec "$program" "$@"

            """);
        LauncherText.Read(launcher.Compose())!.Borrows.Select(app => app.Text).ShouldBe(["gauze", "b.c"]);
        LauncherText.Read(launcher.Compose().Replace("# borrows gauze", "# borrows ../../x")).ShouldBeNull();
        var lent = new OwnFoldersText([Folders(OwnFolderKind.Libraries, "usr/lib", "li\"b")]);
        lent.Compose().ShouldBe("""
            # Written by acrate. It says where programs find the files of this app.
            # libraries usr/lib
            # libraries li"b
            LD_LIBRARY_PATH="$app/usr/lib:$app/li\"b${LD_LIBRARY_PATH:+:$LD_LIBRARY_PATH}"
            export LD_LIBRARY_PATH

            """);
        OwnFoldersText.Read(lent.Compose())!.Compose().ShouldBe(lent.Compose());
        OwnFoldersText.Read(lent.Compose() + "reboot\n").ShouldBeNull();
        OwnFoldersText.Read("").ShouldBeNull();
    }

    [Theory]
    [InlineData("/usr/share/scrim/cloth/a.png", "usr/share/scrim")]
    [InlineData("/usr/lib/scrim", "usr/lib/scrim")]
    [InlineData("/usr/lib/x86_64-linux-gnu/scrim/x.so", "usr/lib/x86_64-linux-gnu/scrim")]
    [InlineData("/usr/share/icons/hicolor", "usr/share/icons/hicolor")]
    [InlineData("/opt/scrim/bin", "opt/scrim")]
    [InlineData("/etc/shadow", null)]
    [InlineData("/usr/share", null)]
    [InlineData("/usr/bin/sudo", null)]
    [InlineData("/usr/share/../../etc", null)]
    [InlineData("/usr/share/a b", null)]
    [InlineData("/usr/share/$(x)", null)]
    public void Only_what_is_an_apps_own_can_be_mapped(string named, string? expected) =>
        MappedPath.Find(named)?.Text.ShouldBe(expected);

    [Fact]
    public void What_a_program_or_a_module_names_is_mapped_but_not_for_a_terminal()
    {
        PackedFile[] files = [new PackedFile("usr/share/scrim/a", false), new PackedFile("usr/share/nobody/a", false)];
        PackedElf program = new("usr/bin/scrim", true, [], []) { Named = ["/usr/share/scrim/a", "/usr/share/other"] };
        Words(Draft(files, [], [program])).ShouldBe("data usr/share|mapped usr/share/scrim");
        Words(Draft([.. files, new PackedFile("usr/share/lintian/a", false)], [], [program with { Named = ["/usr/share/*"] }]))
            .ShouldBe("data usr/share|mapped usr/share/nobody|mapped usr/share/scrim");
        Words(Draft(files, [ScriptReader.Read("usr/bin/scrim", "#!/usr/bin/python3\nX = '/usr/share/scrim'\n")], []))
            .ShouldBe("data usr/share|mapped usr/share/scrim");
        var entry = "[Desktop Entry]\nType=Application\nName=S\nExec=scrim\nCategories=System;TerminalEmulator;\n";
        var terminal = new Drafter(Package with
        {
            Files = [new PackedFile("usr/bin/scrim", true), .. files],
            Elves = [program],
            DesktopEntries = [("usr/share/applications/scrim.desktop", entry)],
        }, "a", default).Draft();
        terminal.Placement.Mapped.ShouldBeEmpty();
        terminal.Questions.ShouldContain(question => question.Contains("/usr/share/scrim", StringComparison.Ordinal));
    }

    [Fact]
    public void Every_kind_of_folder_has_a_row_a_key_and_a_variable_of_its_own()
    {
        OwnFolderRow.All.Select(row => row.Kind).ShouldBe(Enum.GetValues<OwnFolderKind>(), ignoreOrder: true);
        OwnFolderRow.All.Select(row => row.Word).ShouldBeUnique();
        OwnFolderRow.All.Select(row => row.Variable).ShouldBeUnique();
    }

    [Theory]
    [InlineData("usr/share/scrim/cloth.png", "data usr/share")]
    [InlineData("usr/share/doc/scrim/README.gz", "")]
    [InlineData("usr/lib/python3/dist-packages/scrim/__init__.py", "python usr/lib/python3/dist-packages")]
    [InlineData("usr/share/perl5/Scrim/Cloth.pm", "perl usr/share/perl5")]
    [InlineData("usr/lib/x86_64-linux-gnu/girepository-1.0/Scrim-1.0.typelib",
        "typelibs usr/lib/x86_64-linux-gnu/girepository-1.0")]
    [InlineData("usr/share/glib-2.0/schemas/scrim.gschema.xml", "data usr/share|schemas usr/share/glib-2.0/schemas")]
    public void A_draft_names_the_folders_by_what_is_in_them(string file, string expected)
    {
        var placement = Draft([new PackedFile(file, IsProgram: false)], [ScriptReader.Read(file, "")], []);
        Words(placement).ShouldBe(expected);
    }

    [Theory]
    [InlineData("", "libraries usr/lib/scrim")]
    [InlineData("/usr/lib/scrim", "libraries usr/lib/scrim")]
    [InlineData("$ORIGIN/../lib/scrim", "")]
    public void Own_libraries_that_a_program_would_not_find_are_named(string searched, string expected) =>
        Words(Draft([new PackedFile("usr/lib/scrim/libcloth.so.1", IsProgram: false)], [],
        [
            new PackedElf("usr/bin/scrim", true, ["libcloth.so.1", "libc.so.6"], []) { SearchPaths = [searched] },
        ])).ShouldBe(expected);

    private static PackageContents Package => new()
    {
        FileName = "scrim_1.0_all.deb", Format = Core.Cards.ArtifactFormat.Deb,
        Sha256 = Sha256Digest.Parse(CardSamples.Digest), Size = 1,
    };

    private static Placement Draft(PackedFile[] files, PackedScript[] scripts, PackedElf[] elves) => new Drafter(
        Package with { Files = [new PackedFile("usr/bin/scrim", true), .. files], Scripts = scripts, Elves = elves },
        "a", default).Draft().Placement;

    private static string Words(Placement placement) => string.Join('|', placement.Folders
        .Select(folders => $"{OwnFolderRow.Find(folders.Kind).Word} {string.Join(' ', folders.Paths)}")
        .Concat(placement.Schemas.Select(path => $"schemas {path}"))
        .Concat(placement.Mapped.Select(path => $"mapped {path}")));

    private static OwnFolders Folders(OwnFolderKind kind, params string[] paths) =>
        new(kind, [.. paths.Select(InsidePath.Parse)]);
}
