using AmberCrate.SampleCatalogue;

namespace AmberCrate.Bench;

/// <summary><c>relevance [--apps N]</c>: how high the app that is meant ranks, for every kind of question.</summary>
internal static class RelevanceReport
{
    private const int DefaultApps = 10_000;
    private const int Shown = 5;

    public static int Run(string[] options)
    {
        var folder = Directory.CreateTempSubdirectory("relevance-");
        try
        {
            var forge = new CardForge(CatalogueMaker.Number(options, "--apps", DefaultApps));
            using var stage = new SearchStage(forge.MakeAll(), folder.FullName);
            Console.WriteLine("| Question | How many | Mean reciprocal rank | Not among the first 20 |");
            Console.WriteLine("|---|---|---|---|");
            foreach (var group in RelevanceSet.Of(forge).GroupBy(query => query.Group))
            {
                var missing = group.Where(query => !stage.Search(query.Words).Contains(query.Expected)).ToList();
                Console.WriteLine(
                    $"| {group.Key} | {group.Count()} | {RelevanceSet.MeanReciprocalRank([.. group], stage.Search):0.000} | "
                        + $"{missing.Count} |");
                foreach (var query in missing.Take(Shown)) Console.Error.WriteLine(
                    $"  {query.Words}: {query.Expected} is not among {string.Join(", ", stage.Search(query.Words).Take(Shown))}");
            }

            return 0;
        }
        finally
        {
            folder.Delete(recursive: true);
        }
    }
}
