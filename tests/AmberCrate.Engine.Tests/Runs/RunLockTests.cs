using AmberCrate.Core.Problems;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Runs;

namespace AmberCrate.Engine.Tests.Runs;

public sealed class RunLockTests
{
    [Fact]
    public void The_second_taker_is_told_who_holds_the_lock()
    {
        using var folder = new TemporaryFolder();
        var layout = MachineLayout.Under(folder.Path);
        using (RunLock.Acquire(layout, "acrate upgrade", TimeProvider.System))
        {
            var problem =
                Should.Throw<ProblemException>(() => RunLock.Acquire(layout, "acrate install", TimeProvider.System)).Problem;
            problem.Code.ShouldBe(ProblemCode.Locked);
            problem.Why.ShouldMatch($"held by process {Environment.ProcessId} since 20.*: acrate upgrade$");
        }

        RunLock.Acquire(layout, "acrate install", TimeProvider.System).Dispose();
    }

    [Fact]
    public void Only_its_owner_can_open_the_lock_also_where_an_earlier_version_let_others()
    {
        const UnixFileMode ownerOnly = UnixFileMode.UserRead | UnixFileMode.UserWrite;
        using var folder = new TemporaryFolder();
        var layout = MachineLayout.Under(folder.Path);
        RunLock.Acquire(layout, "acrate upgrade", TimeProvider.System).Dispose();
        File.GetUnixFileMode(layout.LockFile).ShouldBe(ownerOnly);
        File.SetUnixFileMode(layout.LockFile, ownerOnly | UnixFileMode.GroupRead | UnixFileMode.OtherRead);
        RunLock.Acquire(layout, "acrate upgrade", TimeProvider.System).Dispose();
        File.GetUnixFileMode(layout.LockFile).ShouldBe(ownerOnly);
    }

    [Fact]
    public void Layouts_follow_the_base_directory_specification()
    {
        var variables = new Dictionary<string, string>
        {
            ["HOME"] = "/home/tech", ["XDG_DATA_HOME"] = "/data", ["XDG_CACHE_HOME"] = "relative/is/ignored",
        };
        var layout = MachineLayout.OfUser(name => variables.GetValueOrDefault(name));
        (layout.BinFolder, layout.ShelfFolder, layout.RecordsFile, layout.CataloguesFile).ShouldBe(
            ("/home/tech/.local/bin", "/data/amber-crate/shelf", "/home/tech/.local/state/amber-crate/records.db",
                "/home/tech/.cache/amber-crate/catalogues.db"));
        MachineLayout.Under("/mnt/x").RecordsFile.ShouldBe("/mnt/x/.local/state/amber-crate/records.db");
    }
}
