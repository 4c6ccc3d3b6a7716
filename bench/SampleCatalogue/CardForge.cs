using System.Security.Cryptography;
using System.Text;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Placements;
using AmberCrate.Core.Searching;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.SampleCatalogue;

/// <summary>
/// Makes the cards of a catalogue of any size: made-up apps of a made-up world, with texts as a maintainer would write them.
/// The same numbers give the same cards everywhere.
/// </summary>
/// <param name="apps">How many apps the catalogue has.</param>
/// <param name="releases">How many releases each has.</param>
public sealed class CardForge(int apps, int releases = 10)
{
    private const int FirstYear = 2019;

    /// <summary>How many apps the catalogue has.</summary>
    public int Apps => apps;

    /// <summary>What an app is for, in the words of its card.</summary>
    public static Topic TopicOf(int number)
    {
        // Every craft meets every kind of thing before one comes again: steps that have no factor in common with the counts.
        var craft = Craft.All[number % Craft.All.Count];
        var pair = (number / Craft.All.Count * 619) % (Vocabulary.Kinds.Length * Vocabulary.Things.Length);
        return new Topic(
            craft.Verb, craft.Keywords, craft.Categories, Vocabulary.Kinds[pair % Vocabulary.Kinds.Length],
            Vocabulary.Things[pair / Vocabulary.Kinds.Length]);
    }

    /// <summary>The name of an app.</summary>
    public static string NameOf(int number)
    {
        var random = new Random(number);
        // About four apps to a house; the houses differ by more than their last letter.
        var brand = Vocabulary.Brand((number / 4 * 2551) % Vocabulary.Brands);
        var nouns = Craft.All[number % Craft.All.Count].Nouns;
        var noun = nouns[(number / Craft.All.Count) % nouns.Length];
        var again = number / 4 / Vocabulary.Brands;
        var tail = again == 0 ? "" : $" {again + 1}";
        return (random.Next(6) switch
        {
            0 => $"{brand}{noun}",
            1 => $"{noun} {brand}",
            2 => $"{brand}-{noun}",
            _ => $"{brand} {noun}",
        }) + tail;
    }

    private static AppId IdOf(int number) => AppId.Parse(SearchText.Fold(NameOf(number)).Replace(' ', '-'));

    /// <summary>Every third app needs a runtime; runtimes and fonts need nothing.</summary>
    private RelatedApp[] NeedsOf(int number) =>
        number % 3 == 0 && number % 25 is not (13 or 19) && apps > 25
            ? [new RelatedApp(IdOf((number * 31 % (apps / 25) * 25) + 13), null)]
            : [];

    /// <summary>Makes every card, one at a time.</summary>
    public IEnumerable<AppCard> MakeAll() => Enumerable.Range(0, apps).Select(number => Make(number));

    /// <summary>Makes a card.</summary>
    /// <param name="number">Which app, from 0.</param>
    /// <param name="later">Whether it has one more release than at first.</param>
    public AppCard Make(int number, bool later = false)
    {
        var random = new Random(number * 7919);
        var topic = TopicOf(number);
        var name = NameOf(number);
        var id = IdOf(number);
        var house = Pick(random, Vocabulary.Houses);
        var things = $"{topic.Kind} {topic.Thing}";
        var summary = string.Format(Pick(random, Vocabulary.Openings), topic.Verb, things, house);
        var brand = Vocabulary.Brand((number / 4 * 2551) % Vocabulary.Brands);
        return new AppCard
        {
            Id = id,
            Kind = (number % 25) switch
            {
                7 =>
                AppKind.ConsoleApp,
                13 => AppKind.Runtime,
                19 => AppKind.Font,
                _ => AppKind.DesktopApp
            },
            Name = name,
            Summary = char.ToUpperInvariant(summary[0]) + summary[1..],
            Description = string.Join(' ', Vocabulary.Sentences.OrderBy(_ => random.Next())
                .Take(5)
                .Select(text => string.Format(text, topic.Verb, topic.Keywords[0], things, house))),
            Developer = new Developer($"{brand} Works", SearchText.Fold(brand)),
            Homepage = $"https://{id.Text}.example",
            Licence = Pick(random, Vocabulary.Licences),
            Categories = topic.Categories,
            Keywords = [.. topic.Keywords, topic.Thing],
            Needs = NeedsOf(number),
            SignIn = (SignIn)random.Next(3),
            Review = random.Next(10) < 6
                ? new Review(
                    ReviewState.Reviewed, new DateOnly(2026, 1 + random.Next(10), 1 + random.Next(28)), "Stagecraft guild")
                : new Review(ReviewState.Unreviewed),
            Placement = PlacementOf(id),
            Releases =
            [
                .. Releases(id, topic, random, later ? releases + 1 : releases).OrderByDescending(release => release.Version),
            ],
        };
    }

    private static Placement PlacementOf(AppId id)
    {
        var name = FileName.Parse(id.Text);
        return new Placement
        {
            Commands = [new PlacedCommand(name, InsidePath.Parse($"bin/{id}"))],
            DesktopEntries = [new PlacedDesktopEntry { Name = name, Command = name, Arguments = "%F" }],
            Icons = [new PlacedIcon(name, InsidePath.Parse($"share/icons/{id}.svg"), "scalable")],
        };
    }

    private static IEnumerable<Release> Releases(AppId id, Topic topic, Random random, int count)
    {
        var (major, minor) = (1 + random.Next(5), 0);
        var byYear = random.Next(5) == 0;
        var day = new DateOnly(FirstYear + random.Next(3), 1 + random.Next(12), 1 + random.Next(28));
        for (var at = 0; at < count; at++)
        {
            var text = byYear ? $"{FirstYear + 1 + (at / 3)}.{1 + (at % 3 * 4)}" : $"{major}.{minor}.{random.Next(4)}";
            if (at == count - 1 && random.Next(4) == 0) text += "-rc1";
            if (random.Next(4) == 0) (major, minor) = (major + 1, 0);
            else minor++;
            yield return MakeRelease(id, text, day, string.Format(Pick(random, Vocabulary.Notes), topic.Keywords[0]), random);
            day = day.AddDays(20 + random.Next(180));
        }
    }

    private static Release MakeRelease(AppId id, string version, DateOnly day, string notes, Random random)
    {
        var platforms = random.Next(3) == 0 ? new[] { "x86_64", "aarch64" } : ["x86_64"];
        return new Release
        {
            Version = AppVersion.Parse(version),
            Date = day,
            Notes = notes,
            Artifacts = [.. platforms.Select(machine => new Artifact
            {
                Platform = Platform.Parse($"{machine}-linux-gnu"),
                Location = ArtifactLocation.Parse($"files/{id}/{id}-{version}-{machine}.tar.zst"),
                Format = ArtifactFormat.TarZst,
                Sha256 = Sha256Digest.FromBytes(SHA256.HashData(Encoding.UTF8.GetBytes($"{id} {version} {machine}"))),
                DownloadSize = 200_000 + random.Next(90_000_000),
                InstalledSize = 900_000 + random.Next(300_000_000),
                StripFolders = 1,
            })],
        };
    }

    private static string Pick(Random random, string[] from) => from[random.Next(from.Length)];
}
