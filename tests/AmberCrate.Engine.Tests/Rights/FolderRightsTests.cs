using AmberCrate.Core.Machine;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Rights;

namespace AmberCrate.Engine.Tests.Rights;

public sealed class FolderRightsTests : IDisposable
{
    private readonly TemporaryFolder _folder = new();

    [Fact]
    public void Everyones_folders_are_the_systems_own()
    {
        var layout = MachineLayout.OfAllUsers();
        layout.Scope.ShouldBe(InstallScope.AllUsers);
        layout.ShelfFolder.ShouldBe("/opt/amber-crate/shelf");
        layout.FrontFolder.ShouldBe("/opt/amber-crate/front");
        layout.RecordsFile.ShouldBe("/var/lib/amber-crate/records.db");
        layout.CataloguesFile.ShouldBe("/var/cache/amber-crate/catalogues.db");
        layout.DownloadsFolder.ShouldBe("/var/cache/amber-crate/downloads");
        layout.CredentialsFile.ShouldBe("/etc/amber-crate/catalogue-access.toml");
        Enum.GetValues<PlaceKind>().Select(kind => layout.PathOf(kind, "x")).ShouldBe(
        [
            "/usr/local/bin/x", "/usr/local/share/applications/x", "/usr/local/share/icons/hicolor/x",
            "/usr/local/share/mime/packages/x",
            "/usr/local/share/man/x", "/usr/local/share/x", "/usr/local/share/fonts/x", "/etc/xdg/autostart/x",
        ], ignoreOrder: true);
        MachineLayout.OfAllUsers("/mnt/image").PathOf(PlaceKind.Command, "x").ShouldBe("/mnt/image/usr/local/bin/x");
    }

    [Fact]
    public void Nothing_is_missing_where_all_can_be_made_and_a_file_in_the_way_is_named()
    {
        FolderRights.Missing(MachineLayout.OfAllUsers(_folder["root"])).ShouldBeNull();
        File.WriteAllText(_folder["opt"], "");
        var problem = FolderRights.Missing(MachineLayout.OfAllUsers(_folder.Path)).ShouldNotBeNull();
        problem.Code.ShouldBe(ProblemCode.StateNeedsAttention);
        problem.Why.ShouldBe($"{_folder["opt"]} is a file");
    }

    [Fact]
    public void Folders_of_this_user_and_of_root_are_fit_for_a_person()
    {
        FolderRights.Foreign(MachineLayout.Under(_folder.Path)).ShouldBeNull();
        FolderRights.Foreign(MachineLayout.Under("/no such folder")).ShouldBeNull();
    }

    public void Dispose() => _folder.Dispose();
}
