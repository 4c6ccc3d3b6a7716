using System.Diagnostics;
using System.Text;
using AmberCrate.Engine.Observing;
using AmberCrate.Tests;

namespace AmberCrate.Engine.Tests.Observing;

public sealed class ObservingTests : IDisposable
{
    private const string Entry = """
        Package: scrim-paint
        Status: install ok installed
        Priority: optional
        Installed-Size: 12
        Version: 1:4.1.2-3
        Description: paints
         Package: not-this-one
         .
         Status: neither

        """;

    private readonly TemporaryFolder _folder = new();

    [Fact]
    public void The_systems_own_packages_are_those_that_dpkg_query_lists()
    {
        if (!File.Exists("/usr/bin/dpkg-query")) Assert.Skip("this system has no dpkg");
        using var query = Process.Start(new ProcessStartInfo(
            "/usr/bin/dpkg-query", ["-W", "-f", "${db:Status-Status} ${Package} ${Version} ${Essential}\n"])
        { RedirectStandardOutput = true, UseShellExecute = false })!;
        var listed = query.ReadOutput().Split('\n')
            .Where(line => line.StartsWith("installed ", StringComparison.Ordinal))
            .Select(line => line["installed ".Length..]).Order(StringComparer.Ordinal).ToList();
        var said = new List<string>();
        var found = new DpkgStatus("/").Observe(said.Add, default).ToList();
        found.Select(app => $"{app.Name} {app.VersionText} ").Order(StringComparer.Ordinal).ShouldBe(
            listed.Select(line => string.Concat(line.Split(' ').Take(2).Select(word => word + " "))));
        foreach (var line in listed.Where(line => line.EndsWith(" yes", StringComparison.Ordinal)))
            found.ShouldContain(app => app.Name == line.Split(' ')[0] && app.IsProtected && app.Removal == null);
        said.ShouldBeEmpty();
    }

    [Theory]
    [InlineData("{0}", "scrim-paint 1:4.1.2-3", 0)]
    [InlineData("{0}\nPackage: gone\nStatus: deinstall ok config-files\nVersion: 1\n", "scrim-paint 1:4.1.2-3", 0)]
    [InlineData("\n\n\n{0}\n\n\n", "scrim-paint 1:4.1.2-3", 0)]
    [InlineData("nonsense\n\n{0}", "scrim-paint 1:4.1.2-3", 1)]
    [InlineData("Package: a\nStatus: install ok installed\n\n{0}", "scrim-paint 1:4.1.2-3", 1)]
    [InlineData("Package: ../../etc\nStatus: install ok installed\nVersion: 1\n\n{0}", "scrim-paint 1:4.1.2-3", 1)]
    [InlineData("{0}\nPackage: half\nStat", "scrim-paint 1:4.1.2-3", 1)]
    [InlineData("", "", 0)]
    public void Broken_entries_are_counted_and_left_out(string layout, string expected, int broken)
    {
        var status = new DpkgStatus(_folder.Path);
        Directory.CreateDirectory(Path.GetDirectoryName(status.Path)!);
        File.WriteAllText(status.Path, layout.Replace("{0}", Entry, StringComparison.Ordinal));
        var said = new List<string>();
        string.Join(", ", status.Observe(said.Add, default).Select(app => $"{app.Name} {app.VersionText}")).ShouldBe(expected);
        said.Count.ShouldBe(broken > 0 ? 1 : 0);
        if (broken > 0) said[0].ShouldStartWith($"{broken} of the entries in ");
    }

    [Fact]
    public void A_hundred_megabytes_and_an_entry_without_end_are_read_through()
    {
        var status = new DpkgStatus(_folder.Path);
        Directory.CreateDirectory(Path.GetDirectoryName(status.Path)!);
        using (var file = File.Create(status.Path))
        {
            var entry = Encoding.UTF8.GetBytes($"{Entry} {new string('x', 10_000)}\n\n");
            for (var at = 0; at < 8000; at++) file.Write(entry);
            file.Write(Encoding.UTF8
                .GetBytes($"Package: endless\nStatus: install ok installed\nDescription:{new string('y', 20 << 20)}"));
            file.Write(Encoding.UTF8.GetBytes($"\n\n{Entry}"));
        }

        var said = new List<string>();
        status.Observe(said.Add, default).Count().ShouldBe(8001);
        said.ShouldHaveSingleItem().ShouldStartWith("1 of the entries");
    }

    [Fact]
    public void Menu_entries_are_read_as_their_specification_says()
    {
        var (mine, system) = (_folder["mine"], _folder["system"]);
        Write(mine, "applications/scrim.desktop", "[Desktop Entry]\nType=Application\nName=Mine\nExec=\"/opt/a b/scrim\" %F\n");
        Write(system, "applications/scrim.desktop", "[Desktop Entry]\nType=Application\nName=System's\nExec=scrim\n");
        Write(system, "applications/kde/tool.desktop",
            "[Desktop Action x]\nExec=no\n[Desktop Entry]\nType=Application\nName=Tool\nName[de]=Werkzeug\nExec=/usr/bin/tool\n"
                + "X-AppVersion=2.0\n");
        Write(system, "applications/hidden.desktop", "[Desktop Entry]\nType=Application\nName=H\nExec=h\nNoDisplay=true\n");
        Write(system, "applications/link.desktop", "[Desktop Entry]\nType=Link\nName=L\nURL=http://a.example\n");
        Write(system, "applications/ours.desktop", "[Desktop Entry]\nType=Application\nName=Ours\nExec=ours\n");
        Directory.CreateDirectory(_folder["system", "applications", "folder.desktop"]);
        File.WriteAllBytes(_folder["system", "applications", "latin.desktop"],
            Encoding.Latin1.GetBytes("[Desktop Entry]\nType=Application\nName=Bühne\nExec=x\n"));
        var said = new List<string>();
        var found = new DesktopFiles([mine, system], path => path.EndsWith("ours.desktop", StringComparison.Ordinal))
            .Observe(said.Add, default);
        found.Select(app => $"{app.Name}|{app.Title}|{app.Program}|{app.VersionText}").ShouldBe(
            ["scrim|Mine|scrim|", "kde-tool|Tool|tool|2.0"]);
        said.ShouldHaveSingleItem().ShouldEndWith("latin.desktop is left out: it is not UTF-8");
    }

    [Theory]
    [InlineData("Scrim_Paint-4.2.1-x86_64.AppImage", "AppImage Scrim_Paint 4.2.1")]
    [InlineData("cue.appimage", "AppImage cue")]
    [InlineData("gantry-2.1/", "Folder gantry 2.1")]
    [InlineData("gantry/", "Folder gantry 7.0")]
    [InlineData("notes.txt", "")]
    [InlineData(".hidden/", "")]
    public void Software_put_there_by_hand_is_told_with_its_version(string name, string expected)
    {
        var path = _folder["opt", name.TrimEnd('/')];
        if (name.EndsWith('/'))
        {
            Directory.CreateDirectory(path);
            File.WriteAllText(Path.Combine(path, "VERSION"), "7.0\n");
        }
        else Write(_folder["opt"], name, "x");

        string.Join(
            ", ", new ForeignFolders([_folder["opt"], _folder["none"]], _ => false).Observe(_ => { }, default)
                .Select(app => $"{app.Kind} {app.Name} {app.VersionText}".TrimEnd())).ShouldBe(expected);
    }

    [Fact]
    public void Metainfo_files_tell_the_newest_release_and_nothing_hostile_is_followed()
    {
        Write(_folder["share"], "metainfo/a.xml",
            "<component type='desktop'><id>scrim.desktop</id><name xml:lang='de'>Farbe</name><name>Scrim</name>"
                + "<releases><release version='4.2'/><release version='4.1'/></releases></component>");
        Write(_folder["share"], "metainfo/b.xml", "<component><id>half");
        Write(_folder["share"], "metainfo/c.xml",
            "<!DOCTYPE c [<!ENTITY a SYSTEM 'file:///etc/passwd'>]><component><id>c</id><name>&a;</name></component>");
        var said = new List<string>();
        var found = new ComponentFiles([_folder["share"]]).Read(said.Add);
        found["scrim"].ShouldBe(("Scrim", "4.2"));
        found.Values.ShouldAllBe(one => one.Name == null || !one.Name.Contains("root"));
        said.Count.ShouldBeGreaterThan(0);
    }

    public void Dispose() => _folder.Dispose();

    private static void Write(string folder, string name, string text)
    {
        var path = Path.Combine(folder, name);
        Directory.CreateDirectory(Path.GetDirectoryName(path)!);
        File.WriteAllText(path, text);
    }
}
