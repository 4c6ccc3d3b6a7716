using System.Diagnostics;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Trust;
using AmberCrate.Engine.Publishing;
using AmberCrate.Engine.Trust;
using AmberCrate.SampleCatalogue;

namespace AmberCrate.Bench;

/// <summary>
/// <c>catalogue DIR [--apps N] [--changed IN]</c>: publishes a made catalogue, as <c>acrate catalogue build</c> does.
/// </summary>
internal static class CatalogueMaker
{
    private const int DefaultApps = 100_000;

    public static int Run(string folder, string[] options)
    {
        var apps = Number(options, "--apps", DefaultApps);
        var oneIn = Number(options, "--changed", 0);
        var forge = new CardForge(apps);
        var watch = Stopwatch.StartNew();
        Directory.CreateDirectory(folder);
        var cards = Enumerable.Range(0, apps).Select(number => forge.Make(number, later: oneIn > 0 && number % oneIn == 0));
        var (document, _) = CataloguePublisher.Publish(
            new CatalogueContent(new CatalogueSettings("Sample catalogue", $"{apps} made-up apps"), cards), folder, full: false,
            new SignedRepository(folder, Keys(folder), DateTimeOffset.UtcNow), "targets", default);
        Console.WriteLine(
            $"{document.Apps} apps, {document.Parts.Count} parts in {document.Parts[^1].Layer + 1} layers, "
                + $"{document.Parts.Sum(part => part.Size)} bytes compressed, "
                + $"{document.Parts.Sum(part => part.ContentSize)} as text, {watch.Elapsed.TotalSeconds:0} s");
        return 0;
    }

    /// <summary>The keys beside a folder, made where they are missing: over http a catalogue must be signed.</summary>
    private static KeyRing Keys(string folder)
    {
        var ring = new KeyRing(Path.TrimEndingDirectorySeparator(Path.GetFullPath(folder)) + "-keys", null);
        foreach (var name in KeyRing.Names.Where(name => !File.Exists(ring.PathOf(name))))
            KeyFile.Create(ring.PathOf(name), TrustKey.Ecdsa, null);
        return ring;
    }

    internal static int Number(string[] options, string name, int otherwise) =>
        Array.IndexOf(options, name) is >= 0 and var at && at + 1 < options.Length ? int.Parse(options[at + 1]) : otherwise;
}
