using System.Security.Cryptography;
using System.Text;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Offers;
using AmberCrate.Core.Tests.Cards;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Tests.Model;

/// <summary>Two made-up catalogues whose releases appear, vanish, are withdrawn and are exchanged.</summary>
/// <param name="codes">Numbers from which everything about the releases follows.</param>
internal sealed class ModelWorld(int[] codes) : IOffers
{
    public static readonly string[] Ids = ["alpha", "beta", "delta", "gamma", "rt"];
    public static readonly string[] Versions = ["2.1", "2.0", "1.5", "1.1", "1.0"];
    public static readonly string[] Names = ["guild", "house"];
    public static readonly string?[] Selectors = [null, null, null, "1.x", "2..", "1.0", "..2", "lts", "1.5", "preview"];
    private static readonly ReleaseLine Lts = LineOf("lts"), Preview = LineOf("preview");
    private static readonly string?[] Related = ["", "", "@1..2", "@2..", "@1.0", "@..2", "@1.5..", "@lts"];

    private static readonly Dictionary<string, AppCard> Templates = Ids.ToDictionary(id => id, id => CardSamples.With(
        id, [.. Versions.Select((version, at) => $"{version} 2026-0{9 - at}-01")]));

    private readonly Dictionary<(string, string), AppCard> _cards = [];
    private readonly int[] _states = [.. Enumerable.Range(0, Names.Length * Ids.Length * Versions.Length)
        .Select(at => codes[at % codes.Length] % 5 == 0 ? 0 : 1)];
    private readonly int[] _builds = new int[Names.Length * Ids.Length * Versions.Length];

    public HashSet<string> Off { get; } = [];

    public IReadOnlyList<CatalogueName> Catalogues => [.. Names.Where(name => !Off.Contains(name)).Select(CatalogueName.Parse)];

    public IReadOnlyList<CatalogueName> Paused => [.. Off.Select(CatalogueName.Parse)];

    public IReadOnlyList<CatalogueName> Unfetched => [];

    /// <summary>Changes a release: it appears, vanishes, is withdrawn, or gets another file.</summary>
    public string Change(int which, int how)
    {
        var at = which % _states.Length;
        var (name, id, version) = (Names[at / (Ids.Length * Versions.Length)], Ids[at / Versions.Length % Ids.Length],
            Versions[at % Versions.Length]);
        var word = (how % 4) switch { 0 => "vanishes", 1 => "appears", 2 => "is withdrawn", _ => "is another file" };
        if (how % 4 == 3) _builds[at]++;
        else _states[at] = how % 4;
        _cards.Remove((name, id));
        return $"{name}:{id} {version} {word}";
    }

    public void Expect(IEnumerable<AppId> ids, bool everyRelease)
    {
        // They are ready.
    }

    public IReadOnlyList<Offer> Find(AppId id) => [.. Names.Where(name => !Off.Contains(name))
        .Select(name => new Offer(CatalogueName.Parse(name), new Uri($"file:///{name}/"), CardOf(name, id.Text)))
        .Where(offer => offer.Card.Releases.Count > 0)];

    public IReadOnlyList<AppId> Named(string squashed) => [.. Ids.Where(id => id == squashed).Select(AppId.Parse)];

    public IReadOnlyList<AppId> Closest(string name) => [];

    /// <summary>What is there in words, for the message of a test that fails.</summary>
    public string Words() => string.Join('\n', from name in Names
                                               from id in Ids
                                               from release in CardOf(name, id).Releases
                                               select $"{name}:{id} {release.Version} {release.Line}"
                                                   + $"{(release.Withdrawn is null ? "" : " withdrawn")} "
                                                   + $"needs {string.Join(' ', release.Needs!)} "
                                                   + $"excludes {string.Join(' ', release.Conflicts!)}");

    private AppCard CardOf(string name, string id)
    {
        if (_cards.TryGetValue((name, id), out var known)) return known;
        var releases = Templates[id].Releases.Select(release => ReleaseOf(name, id, release)).OfType<Release>().ToList();
        return _cards[(name, id)] = Templates[id] with { Releases = releases };
    }

    private Release? ReleaseOf(string name, string id, Release template)
    {
        var app = Array.IndexOf(Ids, id);
        var version = Array.IndexOf(Versions, template.Version.Text);
        var at = (((Array.IndexOf(Names, name) * Ids.Length) + app) * Versions.Length) + version;
        if (_states[at] == 0) return null;

        // What a release needs is the same in both catalogues.
        var code = codes[((app * Versions.Length) + version + 7) % codes.Length];
        var (need, excluded) = (Ids[(app + 1 + (code % 3)) % Ids.Length], Ids[(app + 2 + (code % 2)) % Ids.Length]);
        return template with
        {
            DeclaredLine = (code / 3 % 9) switch { 0 => Lts, 1 => Preview, _ => null },
            Urgency = code / 5 % 4 == 0 ? Urgency.Critical : null,
            Withdrawn = _states[at] == 2 ? "it loses work" : null,
            Needs = code % 3 == 0 && need != id ? [RelatedApp.Parse(need + Related[code / 7 % Related.Length])] : [],
            Conflicts = code % 11 == 1 && excluded != id && excluded != need
                ? [RelatedApp.Parse(excluded + Related[code / 13 % Related.Length])]
                : [],
            Artifacts =
            [
                template.Artifacts[0] with
                {
                    Sha256 = Sha256Digest.FromBytes(
                        SHA256.HashData(Encoding.UTF8.GetBytes($"{name} {id} {template.Version} {_builds[at]}"))),
                },
            ],
        };
    }

    private static ReleaseLine LineOf(string name) =>
        ReleaseLine.TryParse(name, out var line) ? line : throw new ArgumentException("no release line", nameof(name));
}
