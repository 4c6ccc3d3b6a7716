using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Searching;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Indexing;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Publishing;
using AmberCrate.SampleCatalogue;
using AmberCrate.Tests;

namespace AmberCrate.Cli.Tests;

public sealed class RefreshKilledTests
{
    private static readonly CatalogueName Name = CatalogueName.Parse("big");
    private const int Apps = 1500;
    private const int Kills = 12;

    [Fact]
    public async Task A_refresh_that_is_killed_at_any_moment_leaves_the_old_state_or_the_new_one()
    {
        await using var sandbox = new Sandbox();
        var forge = new CardForge(Apps, releases: 2);
        var ids = Enumerable.Range(0, Apps).Select(number => forge.Make(number).Id).ToList();
        foreach (var later in new[] { false, true }) CataloguePublisher.Publish(
            new CatalogueContent(
                new CatalogueSettings("Big"), Enumerable.Range(0, Apps).Select(number => forge.Make(number, later))),
            sandbox[later ? "later" : "first"], full: true, null, "targets", default);
        Publish(later: false);
        sandbox.Run("catalogue", "add", "big", "site", "--unsigned").ShouldEnd(0);
        Publish(later: true);
        var log = sandbox["root", ".cache", "amber-crate", "catalogues.db-wal"];
        long whole = 0, old = 0;
        using (var process = sandbox.Start("catalogue", "refresh"))
        {
            while (!process.HasExited) whole = Math.Max(whole, Written());
            sandbox.Finish(process).ShouldEnd(0);
        }

        whole.ShouldBeGreaterThan(0, "the database's log grows while a refresh writes");
        for (var kill = 0; kill < Kills; kill++)
        {
            Publish(later: kill % 2 == 1);
            using var process = sandbox.Start("catalogue", "refresh");
            while (!process.HasExited && Written() < whole * kill / Kills) Thread.Yield();
            process.Kill();
            await process.EndInTimeAsync();
            if (ReleasesOfEach() != (kill % 2 == 1 ? 3 : 2)) old++;
            sandbox.Run("catalogue", "refresh").ShouldEnd(0);
            ReleasesOfEach().ShouldBe(kill % 2 == 1 ? 3 : 2);
        }

        old.ShouldBeGreaterThan(0, "some kills come before the end");
        Directory.EnumerateFileSystemEntries(sandbox["root", ".cache", "amber-crate"], "incoming-*")
            .ShouldBeEmpty("what dead refreshes left is cleared");

        // Progress is measured by what has been written, not by time: a busy machine is slower.
        long Written() => new FileInfo(log) is { Exists: true, Length: var length } ? length : 0;

        int ReleasesOfEach()
        {
            using var cache = CatalogueCache.Open(MachineLayout.Under(sandbox["root"]), create: false);
            cache.WasRebuilt.ShouldBeFalse();
            cache.Search(IndexQuery.For(SearchQuery.Parse(["works"]), [Name])).Total.ShouldBe(
                Apps, "every app is in the index once");
            return ids.Select(id => cache.Find(id, [Name]).ShouldHaveSingleItem().Card.Releases.Count)
                .Distinct()
                .ShouldHaveSingleItem("all cards are of one state");
        }

        void Publish(bool later)
        {
            // Everything but the entry document stays from one time to the next, so that publishing is quick.
            Directory.CreateDirectory(sandbox["site", "parts"]);
            foreach (var part in Directory.GetFiles(sandbox[later ? "later" : "first", "parts"]))
                File.Copy(part, sandbox["site", "parts", Path.GetFileName(part)], overwrite: true);
            File.Copy(sandbox[later ? "later" : "first", "catalogue.json"], sandbox["site", "catalogue.json"], overwrite: true);
        }
    }
}
