using AmberCrate.Core.Problems;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Records;
using AmberCrate.Engine.Storage;

namespace AmberCrate.Engine.Tests.Records;

public sealed class RecordStoreTests : IDisposable
{
    private readonly TemporaryFolder _folder = new();

    [Theory]
    [InlineData(1, "reference", "stated_sha256", "to_installer")]
    [InlineData(2, "stated_sha256", "to_installer")]
    public void Records_of_an_older_version_are_read_and_brought_up_to_date_by_the_first_that_writes(int version, params string[] lacking)
    {
        var layout = MachineLayout.Under(_folder.Path);
        RecordStore.Open(layout, TimeProvider.System, create: true).Dispose();
        using (var database = Database.Open(layout.RecordsFile))
        {
            foreach (var column in lacking) database.Run($"ALTER TABLE run_items DROP COLUMN {column}");
            database.Run("INSERT INTO runs(number, command, begun) VALUES(7, 'acrate install a', '2026-01-01T00:00:00Z')");
            database.Run("INSERT INTO run_items(run, app, action, outcome) VALUES(7, 'a', 'Install', 'Failed')");
            database.Run($"PRAGMA user_version={version}");
        }

        foreach (var (writes, becomes) in new[] { (false, version), (true, RecordStore.SchemaVersion), (false, RecordStore.SchemaVersion) })
        {
            using (var records = RecordStore.Open(layout, TimeProvider.System, writes))
            {
                var left = records.RunLeft(null).ShouldNotBeNull();
                left.Number.ShouldBe(7);
                left.Items.ShouldHaveSingleItem().Reference.ToString().ShouldBe("a");
            }

            using var database = Database.Open(layout.RecordsFile);
            database.Number("PRAGMA user_version").ShouldBe(becomes);
        }
    }

    [Fact]
    public void Records_of_a_newer_version_are_refused_and_left_alone()
    {
        var layout = MachineLayout.Under(_folder.Path);
        RecordStore.Open(layout, TimeProvider.System, create: true).Dispose();
        using (var database = Database.Open(layout.RecordsFile)) database.Run("PRAGMA user_version=99");
        Should.Throw<ProblemException>(() => RecordStore.Open(layout, TimeProvider.System, create: true)).Problem.Code.ShouldBe(ProblemCode.StateNeedsAttention);
        using var after = Database.Open(layout.RecordsFile);
        after.Number("PRAGMA user_version").ShouldBe(99);
    }

    public void Dispose() => _folder.Dispose();
}
