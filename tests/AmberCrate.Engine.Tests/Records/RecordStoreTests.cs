using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Runs;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Records;
using AmberCrate.Engine.Storage;

namespace AmberCrate.Engine.Tests.Records;

/// <summary>
/// The samples were written by the program as it was at each version: two apps put on, one failed, one put on and taken off
/// again.
/// </summary>
public sealed class RecordStoreTests : IDisposable
{
    private readonly TemporaryFolder _folder = new();

    private MachineLayout Layout => MachineLayout.Under(_folder.Path);

    public static TheoryData<int> Versions => [.. Enumerable.Range(1, RecordSchema.Version)];

    [Theory]
    [MemberData(nameof(Versions))]
    public void Records_of_every_version_are_read_and_brought_up_to_date_by_the_first_that_writes(int version)
    {
        Directory.CreateDirectory(Layout.StateFolder);
        File.Copy(Path.Combine(AppContext.BaseDirectory, "Records", "Samples", $"records-{version}.db"), Layout.RecordsFile);
        foreach (var (writes, becomes) in new[] { (false, version), (true, RecordSchema.Version), (false, RecordSchema.Version) })
        {
            using (var records = RecordStore.Open(Layout, TimeProvider.System, writes))
            {
                records.Apps()
                    .Select(app => $"{app.Id} {app.Version} {app.Follows}")
                    .ShouldBe(["gantry-plot 2.1.0 ", "scrim-paint 4.1.2 4.1.x"]);
                records.Catalogues()
                    .Select(catalogue => $"{catalogue.Name} {catalogue.IsPaused}")
                    .ShouldBe(["house True", "guild False"]);
                var left = records.RunsNotEnded().First();
                left.Number.ShouldBe(2);
                left.Items.Select(item => $"{item.Reference.Name} {item.Action} {item.To} {item.Outcome}")
                    .ShouldBe(["cue-ledger Install 1.5.0 Failed", "prompt-margin Install 2.1.0 Done"]);
                left.Items[0].Reference.ToString().ShouldBe(version == 1 ? "cue-ledger" : "guild:cue-ledger");
                records.ItemsOf(version == 1 ? 4 : 3).ShouldHaveSingleItem().Action.ShouldBe(PlanAction.Remove);
                if (version == 1) records.ItemsOf(3).ShouldHaveSingleItem().Outcome.ShouldBe(Outcome.Unchanged);
            }

            using var database = Database.Open(Layout.RecordsFile);
            database.Number("PRAGMA user_version").ShouldBe(becomes);
        }
    }

    [Fact]
    public void Records_of_a_newer_version_are_refused_and_left_alone()
    {
        RecordStore.Open(Layout, TimeProvider.System, create: true).Dispose();
        using (var database = Database.Open(Layout.RecordsFile)) database.Run("PRAGMA user_version=99");
        foreach (var writes in new[] { true, false })
        {
            var refused = Should.Throw<ProblemException>(() => RecordStore.Open(Layout, TimeProvider.System, writes)).Problem;
            (refused.Code, refused.Why).ShouldBe(
                (ProblemCode.StateNeedsAttention, $"a newer acrate wrote them (version 99, this one knows "
                    + $"{RecordSchema.Version})"));
        }

        using var after = Database.Open(Layout.RecordsFile);
        after.Number("PRAGMA user_version").ShouldBe(99);
    }

    [Theory]
    [InlineData("action", "Install", "what run 1 did with a cannot be read", "expected one of install")]
    [InlineData("outcome", "Failed", "what run 1 did with a cannot be read", "expected one of done")]
    [InlineData("before", "{}", "the record of a cannot be read", "not in the form")]
    public void A_word_that_is_in_no_table_is_told_and_not_guessed(string column, string word, string what, string why)
    {
        using var records = RecordStore.Open(Layout, TimeProvider.System, create: true);
        using (var database = Database.Open(Layout.RecordsFile))
        {
            database.Run("INSERT INTO runs(number, command, begun) VALUES(1, 'acrate install a', '2026-01-01T00:00:00Z')");
            database.Run("INSERT INTO run_items(run, app, action, outcome) VALUES(1, 'a', 'install', 'failed')");
            database.Run($"UPDATE run_items SET {column} = $1", word);
        }

        var refused = Should.Throw<ProblemException>(() => records.Run(1)).Problem;
        (refused.Code, refused.What).ShouldBe((ProblemCode.StateNeedsAttention, what));
        refused.Why.ShouldContain(why);
    }

    public void Dispose() => _folder.Dispose();
}
