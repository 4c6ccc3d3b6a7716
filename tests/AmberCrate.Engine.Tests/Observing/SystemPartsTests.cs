using AmberCrate.Core.Requirements;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Observing;

namespace AmberCrate.Engine.Tests.Observing;

/// <summary>What an app brings that only works as a part of the system.</summary>
public sealed class SystemPartsTests : IDisposable
{
    private readonly TemporaryFolder _folder = new();

    [Fact]
    public void Services_of_the_system_and_folders_for_data_are_named_unless_the_system_has_them()
    {
        Write("app", "usr/share/dbus-1/system-services/org.battenworks.Scrim.service");
        Write("app", "usr/share/dbus-1/system-services/org.battenworks.There.service");
        Write("system", "usr/share/dbus-1/system-services/org.battenworks.There.service");
        Directory.CreateDirectory(_folder["app", "var", "games", "scrim"]);
        Directory.CreateDirectory(_folder["app", "var", "lib", "there"]);
        Directory.CreateDirectory(_folder["system", "var", "lib", "there"]);
        new SystemParts(_folder["system"]).FindMissing(_folder["app"]).ShouldBe(
            ["the service org.battenworks.Scrim for the system's message bus", "the folder /var/games/scrim"]);
        new SystemParts(_folder["app"]).FindMissing(_folder["app"]).ShouldBeEmpty();
        new SystemParts(_folder["system"]).FindMissing(_folder["none"]).ShouldBeEmpty();
    }

    [Fact]
    public void Where_all_libraries_are_there_the_packages_that_may_bring_them_do_not_matter()
    {
        Write("system", "var/lib/dpkg/status", "Package: hem\nStatus: install ok installed\nVersion: 1\n\n");
        var check = new SystemCheck(_folder["system"], "", new SystemPackages(_folder["system"]));
        SystemRequirement Package(string name) => new() { Kind = RequirementKind.Package, Name = name, Deb = [new(name, null)] };
        var library = new SystemRequirement { Kind = RequirementKind.Library, Name = "libgauze.so.2" };
        var platform = Platform.Parse("x86_64-linux-gnu");
        Lacks(library, Package("libgauze2"), Package("gauze-data"), Package("hem"))
            .ShouldBe(["libgauze.so.2", "libgauze2", "gauze-data"]);
        Directory.CreateDirectory(_folder["system", "usr", "lib", "x86_64-linux-gnu"]);
        File.Copy(new SystemLibraries("/").Find("libc.so.6").First(),
            _folder["system", "usr", "lib", "x86_64-linux-gnu", "libgauze.so.2"]);
        check = new SystemCheck(_folder["system"], "", new SystemPackages(_folder["system"]));
        Lacks(library, Package("libgauze2"), Package("gauze-data")).ShouldBe(["gauze-data"]);
        Lacks(Package("libgauze2")).ShouldBe(["libgauze2"], "nothing else says that it is there");

        IEnumerable<string> Lacks(params SystemRequirement[] requirements) =>
            check.FindLacks(requirements, platform).Select(lack => lack.Requirement.Name);
    }

    public void Dispose() => _folder.Dispose();

    private void Write(string root, string path, string text = "")
    {
        var file = Path.Combine(_folder[root], path);
        Directory.CreateDirectory(Path.GetDirectoryName(file)!);
        File.WriteAllText(file, text);
    }
}
