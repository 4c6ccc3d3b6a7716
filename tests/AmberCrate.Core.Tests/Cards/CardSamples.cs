using AmberCrate.Core.CardFiles;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Problems;

namespace AmberCrate.Core.Tests.Cards;

/// <summary>Cards for tests, made in code.</summary>
internal static class CardSamples
{
    public const string Digest = "00112233445566778899aabbccddeeff00112233445566778899aabbccddeeff";

    public static AppCard Read(string text, string file = "cards/anything.toml")
    {
        var faults = new List<FormatFault>();
        var card = CardReader.Read(text, file, faults);
        faults.ShouldBeEmpty();
        return card!;
    }

    public static IReadOnlyList<string> FaultsOf(string text, string file = "scrim.toml")
    {
        var faults = new List<FormatFault>();
        CardReader.Read(text, file, faults).ShouldBeNull();
        return [.. faults.Select(fault => fault.ToString())];
    }

    /// <summary>A card with releases given as "version date [line]".</summary>
    public static AppCard With(string id, params string[] releases) => Read(Text(id, releases));

    public static string Text(string id, params string[] releases) => $"""
        appcard = 1
        id = "{id}"
        type = "desktop-application"
        name = "{id}"
        summary = "Something for the stage"

        """ + string.Concat(releases.Select(release => Release(release.Split(' '))));

    private static string Release(string[] words) => $"""

        [[releases]]
        version = "{words[0]}"
        date = {words[1]}
        {(words.Length > 2 ? $"line = \"{words[2]}\"" : "")}
        [[releases.artifacts]]
        platform = "{(words.Length > 3 ? words[3] : "any-linux-any")}"
        location = "files/a.tar.gz"
        format = "tar.gz"
        sha256 = "{Digest}"
        download_size = 10

        """;
}
