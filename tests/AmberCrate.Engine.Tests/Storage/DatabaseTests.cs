using AmberCrate.Engine.Storage;

namespace AmberCrate.Engine.Tests.Storage;

public sealed class DatabaseTests : IDisposable
{
    private readonly TemporaryFolder _folder = new();

    [Theory]
    [InlineData("plain.db")]
    [InlineData("a b.db")]
    [InlineData("100%.db")]
    [InlineData("%41.db")]
    [InlineData("what?mode=memory.db")]
    [InlineData("a#b&c=d.db")]
    [InlineData("Bühne.db")]
    public void A_file_of_any_name_is_read_without_being_changed(string name)
    {
        var path = Path.Combine(_folder.Path, name);
        Make(path);
        var before = Directory.GetFiles(_folder.Path)
            .Order(StringComparer.Ordinal)
            .Select(file => (file, new FileInfo(file).Length))
            .ToList();

        // Whether the files of the log are there, one of them, or none.
        foreach (var gone in new[] { "", "-shm", "-wal" })
        {
            if (gone.Length > 0) File.Delete(path + gone);
            using var database = Database.OpenToRead(path);
            database.Query("SELECT word FROM words ORDER BY word", row => row.Text(0)).ShouldBe(["crate", "light"]);
            if (gone.Length > 0) continue;
            Should.Throw<DatabaseException>(() => database.Run("DELETE FROM words")).Code.ShouldBe(8);
            Directory.GetFiles(_folder.Path)
                .Order(StringComparer.Ordinal)
                .Select(file => (file, new FileInfo(file).Length))
                .ShouldBe(before);
        }
    }

    [Fact]
    public void The_log_stays_and_is_cut_to_nothing_however_large_it_has_been()
    {
        var path = Path.Combine(_folder.Path, "records.db");
        Make(path);
        using (var database = Database.Open(path))
        {
            using var transaction = database.Begin();
            for (var number = 0; number < 300; number++)
                database.Run("INSERT INTO words VALUES($1)", $"{number:000}{new string('x', 4000)}");
            transaction.Commit();
            new FileInfo($"{path}-wal").Length.ShouldBeGreaterThan(1 << 20);
        }

        new FileInfo($"{path}-wal").Length.ShouldBe(0);
        new FileInfo($"{path}-shm").Length.ShouldBeGreaterThan(0);
        using var after = Database.OpenToRead(path);
        after.Number("SELECT COUNT(*) FROM words").ShouldBe(302);
    }

    [Fact]
    public void What_is_no_database_is_said_to_be_none()
    {
        var path = Path.Combine(_folder.Path, "records.db");
        File.WriteAllText(path, new string('?', 8192));
        foreach (var open in new Func<string, Database>[] { file => Database.Open(file), Database.OpenToRead })
        {
            Should.Throw<DatabaseException>(() =>
            {
                using var database = open(path);
                database.Number("PRAGMA user_version");
            }).Code.ShouldBe(26);
        }
    }

    public void Dispose() => _folder.Dispose();

    private static void Make(string path)
    {
        using var database = Database.Open(path);
        database.Run(
            "PRAGMA journal_mode=WAL; CREATE TABLE words(word TEXT); INSERT INTO words VALUES('crate'); INSERT INTO words "
                + "VALUES('light')");
    }
}
