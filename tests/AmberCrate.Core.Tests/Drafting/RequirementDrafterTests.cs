using AmberCrate.Core.Cards;
using AmberCrate.Core.Drafting;
using AmberCrate.Core.Requirements;
using AmberCrate.Core.Tests.Cards;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Tests.Drafting;

/// <summary>What a package expects the system to have, read from its files and its metadata.</summary>
public sealed class RequirementDrafterTests
{
    [Fact]
    public void Libraries_are_those_that_programs_load_and_the_package_has_not()
    {
        var found = Draft(new()
        {
            Elves =
            [
                new PackedElf("bin/scrim", true, ["libscrim.so.1", "libc.so.6", "libm.so.6", "ld-linux-x86-64.so.2"],
                    [("libc.so.6", "GLIBC_2.9"), ("libc.so.6", "GLIBC_2.34"), ("libm.so.6", "GLIBC_2.38"),
                        ("libc.so.6", "GLIBC_ABI_DT_RELR")]),
                new PackedElf("lib/libscrim.so.1", false, ["libgauze.so.2", "libscrim.so.1"],
                    [("libgauze.so.2", "GAUZE_2.1"), ("libgauze.so.2", "GAUZE_2.10")]),
                new PackedElf("lib/plugins/libextra.so", false, ["libnobody.so.9"], []),
            ],
        }, "libc6 (>= 2.34), libgauze2t64 (>= 1.4), libcloth1, debconf (>= 0.5) | debconf-2.0, scrim-data (= 1.0-1)");
        found.ShouldBe(
        [
            "library libc.so.6 GLIBC_2.38 GLIBC_ABI_DT_RELR deb libc6>=2.34",
            "library libgauze.so.2 GAUZE_2.10 deb libgauze2t64>=1.4",
            "package scrim-data deb scrim-data>=1.0-1",
        ]);
    }

    [Fact]
    public void Scripts_are_followed_from_what_is_started_to_what_it_imports()
    {
        var found = Draft(new()
        {
            Files = [new PackedFile("usr/bin/scrim", IsProgram: true), new PackedFile("usr/bin/hem", IsProgram: true)],
            Scripts =
            [
                Script("usr/bin/scrim", "#!/usr/bin/python3\nimport sys, yaml\nfrom scrim import cloth as c, paint\n"),
                Script("usr/lib/python3/dist-packages/scrim/__init__.py", "import os.path\n"),
                Script("usr/lib/python3/dist-packages/scrim/paint.py", """
                    '''
                    import nothing
                    '''
                    import gi
                    gi.require_version("Gauze", "2.0")
                    from gi.repository import (Gauze,
                        Cloth)
                    try:
                        import faster
                    except ImportError:
                        pass
                    def later():
                        import much_later
                    from . import cloth
                    """),
                Script("usr/lib/python3/dist-packages/scrim/cloth.py", "from google.colours import red  # import x\n"),
                Script("usr/lib/python3/dist-packages/scrim/tests.py", "import testing_only\n"),
                Script("usr/bin/hem", "#!/usr/bin/env perl\nuse strict;\nuse Gauze::Cloth qw(a);\nuse Own::Part;\n"
                    + "  use In::Sub;\n__END__\nuse Not::This;\n"),
                Script("usr/share/perl5/Own/Part.pm", "package Own::Part;\nuse Deeper;\n"),
            ],
        }, "python3 (>= 3.11~), python3-yaml, gir1.2-gauze-2.0, perl:any");
        found.ShouldBe(
        [
            "interpreter /usr/bin/python3 3.11 deb python3",
            "interpreter perl deb perl",
            "module perl Deeper",
            "module perl Gauze::Cloth",
            "module python3 gi",
            "module python3 google.colours",
            "module python3 yaml deb python3-yaml",
            "typelib Cloth",
            "typelib Gauze-2.0 deb gir1.2-gauze-2.0",
        ]);
    }

    [Theory]
    [InlineData("libgauze-x11-2.0.so.0", "libgauze-x11-2.0-0, libhem1", "library libgauze-x11-2.0.so.0 deb libgauze-x11-2.0-0")]
    [InlineData("libgauze-x11-2.0.so.0", "libgauze2.0-0",
        "library libgauze-x11-2.0.so.0 deb libgauze2.0-0|package libgauze2.0-0 deb libgauze2.0-0")]
    [InlineData("libhem.so.0", "libhem-tack2-0 | libhem-0.125, libgauze2.0-0",
        "library libhem.so.0 deb libhem-tack2-0 libhem-0.125|package libhem-tack2-0 deb libhem-tack2-0 libhem-0.125"
        + "|package libgauze2.0-0 deb libgauze2.0-0")]
    public void A_package_of_a_library_is_named_while_some_library_has_none(string library, string depends, string expected) =>
        string.Join('|', Draft(new Contents { Elves = [new PackedElf("usr/bin/scrim", true, [library], [])] }, depends))
            .ShouldBe(expected);

    [Theory]
    [InlineData("libgauze.so.2.1")]
    [InlineData("libgauze.so.1.9.4")]
    public void A_library_of_the_package_is_followed_through_its_link(string file)
    {
        var contents = new Contents
        {
            Files = [new PackedFile("usr/lib/libgauze.so.2", false, 0, IsLink: true),
                new PackedFile("usr/lib/" + file, false)],
            Elves =
            [
                new PackedElf("usr/bin/scrim", true, ["libgauze.so.2"], []), new PackedElf("usr/lib/" + file, false,
                    ["libhem.so.1"], []) { Named = ["/usr/share/gauze"] },
                new PackedElf("usr/lib/libunused.so.1", false, ["libnever.so.1"], []),
            ],
        };
        Draft(contents, "").ShouldBe(["library libhem.so.1"]);
    }

    [Fact]
    public void Of_a_file_that_is_not_looked_into_nothing_is_known() =>
        new Drafter(Package with { Format = ArtifactFormat.AppImage }, "a", default).Requirements.ShouldBeNull();

    [Theory]
    [InlineData("a", "a")]
    [InlineData("a (>= 1.0) | b [amd64] <!nocheck>, c:any (<< 3)", "a>=1.0 b|c")]
    [InlineData("a (= 1~x-2), ${misc}, ,b(>>2)", "a>=1~x-2|b>=2")]
    [InlineData("a\n (>= 1", "a")]
    public void Dependencies_of_Debian_are_read(string field, string expected) =>
        string.Join('|', DebianDependency.Parse(field).Select(one => string.Join(' ', one.Any))).ShouldBe(expected);

    [Fact]
    public void A_card_covers_what_it_names_with_the_same_or_a_higher_version()
    {
        SystemRequirement Library(params string[] symbols) =>
            new() { Kind = RequirementKind.Library, Name = "libgauze.so.2", Symbols = symbols };
        var package = new SystemRequirement { Kind = RequirementKind.Package, Name = "x" };
        RequirementCoverage.FindMissing([Library("GAUZE_2.10")], [Library("GAUZE_2.9"), package]).ShouldBeEmpty();
        RequirementCoverage.FindMissing([Library("GAUZE_2.9")], [Library("GAUZE_2.10")]).ShouldHaveSingleItem();
        RequirementCoverage.FindMissing([Library()], [Library("GAUZE_1")]).ShouldHaveSingleItem();
        RequirementCoverage.FindMissing([], [Library()]).ShouldHaveSingleItem();
    }

    private static PackageContents Package => new()
    {
        FileName = "scrim_1.0-1_amd64.deb", Format = ArtifactFormat.Deb, Sha256 = Sha256Digest.Parse(CardSamples.Digest),
        Size = 1,
    };

    private static PackedScript Script(string path, string text) => ScriptReader.Read(path, text);

    private static List<string> Draft(Contents contents, string depends) =>
    [
        .. new Drafter(Package with
        {
            Files = contents.Files, Elves = contents.Elves, Scripts = contents.Scripts,
            Control = new Dictionary<string, string> { ["Package"] = "scrim", ["Version"] = "1.0-1", ["Depends"] = depends },
        }, "a", default).Requirements!.Select(one => string.Join(' ', new[]
        {
            RequirementWords.Kinds.WordOf(one.Kind), one.Of ?? "", one.Name, one.Least ?? "", string.Join(' ', one.Symbols),
            one.Deb.Count > 0 ? $"deb {string.Join(' ', one.Deb)}" : "",
        }.Where(part => part.Length > 0))),
    ];

    private sealed record Contents
    {
        public IReadOnlyList<PackedFile> Files { get; init; } = [];

        public IReadOnlyList<PackedElf> Elves { get; init; } = [];

        public IReadOnlyList<PackedScript> Scripts { get; init; } = [];
    }
}
