using AmberCrate.Core.Requirements;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Observing;

namespace AmberCrate.Engine.Tests.Observing;

/// <summary>What a system lacks: looked at in a made-up root, and with this machine's own libraries and tools.</summary>
public sealed class SystemCheckTests : IDisposable
{
    private static readonly Platform Machine = Platform.Parse("x86_64-linux-gnu");

    private readonly TemporaryFolder _folder = new();

    public SystemCheckTests()
    {
        Write("etc/hostname", "");
        Write("usr/bin/python3.11", "");
        File.CreateSymbolicLink(_folder["usr", "bin", "python3"], "/usr/bin/python3.11");
        File.CreateSymbolicLink(_folder["usr", "bin", "circle"], "/usr/bin/circle");
        Write("usr/lib/python3/dist-packages/yaml/__init__.py", "");
        Write("usr/lib/python3/dist-packages/google/colours.py", "");
        Write("usr/lib/python3.11/lib-dynload/_tkinter.cpython-311-x86_64-linux-gnu.so", "");
        Write("usr/lib/python3.9/site-packages/old.py", "");
        Write("usr/share/perl5/Gauze/Cloth.pm", "");
        Write("usr/lib/x86_64-linux-gnu/perl/5.36.0/POSIX.pm", "");
        Write("usr/lib/x86_64-linux-gnu/girepository-1.0/Gauze-2.0.typelib", "");
        Write("usr/share/gauze/cloth", "");
        File.WriteAllBytes(_folder["usr", "lib", "x86_64-linux-gnu", "libgauze.so.2"], ProgramCheckTests.Elf(null, [], ""));
        File.WriteAllBytes(_folder["usr", "lib", "x86_64-linux-gnu", "libarm.so.2"], ProgramCheckTests.Elf(null, [], "", 183));
        Write("var/lib/dpkg/status", "Package: gauze-data\nStatus: install ok installed\nVersion: 1.4-1\n"
            + "Provides: cloth, linen (= 3)\n\nPackage: gone\nStatus: deinstall ok config-files\nVersion: 1\n\n");
        Write("var/lib/apt/lists/x_Packages",
            "Package: libvelvet1t64\nVersion: 1\n\nPackage: python3-velvet\n\nPackage: velvet-new\n");
        Write("usr/bin/apt-get", "");
    }

    [Theory]
    [InlineData("library libgauze.so.2", null)]
    [InlineData("library libarm.so.2", "missing")]
    [InlineData("library libvelvet.so.1", "missing libvelvet1t64")]
    [InlineData("library libgauze.so.2 symbols=GAUZE_9", "this system has an older one, without GAUZE_9")]
    [InlineData("library libgauze.so.2 deb=gauze-data>=1.4-1", null)]
    [InlineData("library libgauze.so.2 deb=gauze-data>=1.4-2", "this system's gauze-data 1.4-1 is older")]
    [InlineData("program python3", null)]
    [InlineData("program velvet", "missing")]
    [InlineData("program circle", "missing")]
    [InlineData("interpreter /usr/bin/python3 least=3.11", null)]
    [InlineData("interpreter python3 least=3.9", null)]
    [InlineData("interpreter python3 least=3.12", "this system has 3.11")]
    [InlineData("interpreter python3 least=4", "this system has 3.11")]
    [InlineData("interpreter python3 least=1.2.3.4.5", null)]
    [InlineData("interpreter /usr/local/bin/python3", "missing")]
    [InlineData("module yaml of=python3", null)]
    [InlineData("module google.colours of=python3", null)]
    [InlineData("module google.sounds of=python3", "missing")]
    [InlineData("module _tkinter of=python3", null)]
    [InlineData("module old of=python3", "missing")]
    [InlineData("module velvet of=python3", "missing python3-velvet")]
    [InlineData("module Gauze::Cloth of=perl", null)]
    [InlineData("module POSIX of=perl", null)]
    [InlineData("module Gauze::Wool of=perl", "missing")]
    [InlineData("typelib Gauze-2.0", null)]
    [InlineData("typelib Gauze", null)]
    [InlineData("typelib Gauze-3.0", "missing")]
    [InlineData("file /usr/share/gauze", null)]
    [InlineData("file /usr/share/velvet", "missing")]
    [InlineData("package x deb=gauze-data", null)]
    [InlineData("package x deb=nothing,cloth", null)]
    [InlineData("package x deb=linen", null)]
    [InlineData("package x deb=gone", "missing")]
    [InlineData("package x deb=velvet-old,velvet-new", "missing velvet-new")]
    [InlineData("package x rpm=gone", null)]
    public void A_requirement_is_looked_up_in_the_system(string text, string? expected)
    {
        var lack = Check().FindLacks([Requirement(text)], Machine).SingleOrDefault();
        (lack is null ? null : lack.Found ?? $"missing {lack.Package}".TrimEnd()).ShouldBe(expected);
    }

    [Fact]
    public void The_line_to_paste_is_that_of_the_family()
    {
        var check = Check();
        check.Family!.Word.ShouldBe("deb");
        check.ComposeInstallLine(check.FindLacks([Requirement("library libvelvet.so.1")], Machine))!
            .ShouldEndWith("apt-get install libvelvet1t64");
        Directory.Delete(_folder["var", "lib", "dpkg"], recursive: true);
        Directory.CreateDirectory(_folder["usr", "lib", "sysimage", "rpm"]);
        Write("usr/bin/zypper", "");
        var other = Check();
        other.ComposeInstallLine(other.FindLacks([Requirement("library libvelvet.so.1")], Machine))!
            .ShouldEndWith("zypper install 'libvelvet.so.1()(64bit)'");
    }

    [Fact]
    public void This_machines_own_library_has_the_versions_that_it_says()
    {
        var path = new SystemLibraries("/").Find("libc.so.6").First();
        var library = ElfFile.ReadWithVersions(path)!;
        library.DefinedVersions.ShouldContain("GLIBC_2.17");
        library.DefinedVersions.ShouldNotContain("libc.so.6");
        ElfFile.Read(path)!.DefinedVersions.ShouldBeEmpty();
        var machine = Platform.Parse($"{ProcessorArchitecture.OfElf(library.Machine)!.Name}-linux-gnu");
        var here = new SystemCheck("/", "/usr/bin", new SystemPackages("/"));
        here.FindLacks([Requirement("library libc.so.6 symbols=GLIBC_2.17")], machine).ShouldBeEmpty();
        here.FindLacks([Requirement("library libc.so.6 symbols=GLIBC_99.1")], machine).ShouldHaveSingleItem().Found!
            .ShouldContain("GLIBC_99.1");
    }

    [Fact]
    public void Broken_libraries_do_no_harm()
    {
        var whole = File.ReadAllBytes(new SystemLibraries("/").Find("libc.so.6").First())[..8192];
        var random = new Random(7);
        for (var count = 0; count < 300; count++)
        {
            var bytes = whole.ToArray();
            for (var at = 0; at < 20; at++) bytes[random.Next(bytes.Length)] = (byte)random.Next(256);
            File.WriteAllBytes(_folder["broken"], bytes);
            Should.NotThrow(() => ElfFile.ReadWithVersions(_folder["broken"]));
        }
    }

    [Fact]
    public void The_order_of_versions_is_that_of_the_systems_own_tool()
    {
        if (ProgramSearch.Trusted("dpkg") is not { } dpkg) return;
        var random = new Random(11);
        string Version() => string.Concat(Enumerable.Range(0, random.Next(1, 7)).Select(_ => "0129a+.~-"[random.Next(9)]));
        for (var count = 0; count < 150; count++)
        {
            var (one, other) = ($"1{Version()}", $"1{Version()}");
            if (one.EndsWith('-') || other.EndsWith('-')) continue;
            var isLess = SystemProgram.Ask(dpkg, ["--compare-versions", one, "lt", other], TimeSpan.FromSeconds(20)).Code == 0;
            (DebianVersionOrder.Compare(one, other) < 0).ShouldBe(isLess, $"{one} and {other}");
        }
    }

    public void Dispose() => _folder.Dispose();

    private SystemCheck Check() => new(_folder.Path, "", new SystemPackages(_folder.Path));

    private static SystemRequirement Requirement(string text)
    {
        var words = text.Split(' ');
        string? Of(string key) =>
            words.FirstOrDefault(word => word.StartsWith(key + "=", StringComparison.Ordinal))?[(key.Length + 1)..];
        IReadOnlyList<SystemPackage> Packages(string key) =>
            [.. (Of(key)?.Split(',') ?? []).Select(name => SystemPackage.TryParse(name, out var package) ? package : null!)];
        return new SystemRequirement
        {
            Kind = RequirementWords.Kinds.Read(words[0]), Name = words[1], Of = Of("of"), Least = Of("least"),
            Symbols = Of("symbols")?.Split(',') ?? [], Deb = Packages("deb"), Rpm = Packages("rpm"),
        };
    }

    private void Write(string path, string content)
    {
        Directory.CreateDirectory(Path.GetDirectoryName(_folder[path])!);
        File.WriteAllText(_folder[path], content);
    }
}
