using AmberCrate.Core.Cards;
using AmberCrate.Core.Searching;
using AmberCrate.Core.Tests.Cards;
using AmberCrate.Core.Values;
using CsCheck;

namespace AmberCrate.Core.Tests.Searching;

public sealed class NewestReleasesTests
{
    private static readonly string[] Platforms = ["x86_64-linux-gnu", "aarch64-linux-gnu", "any-linux-any", "any-linux-musl"];

    private static readonly Gen<AppCard> Cards =
        from releases in Gen.Select(Gen.Int[0, 9], OneOf("", "stable", "lts", "preview"), OneOf(Platforms), Gen.Bool).Array[1, 8]
        select CardSamples.With("app", [.. releases.DistinctBy(release => release.Item1)
            .Select(release =>
                $"{release.Item1}.0{(release.Item4 ? "-rc1" : "")} 2026-01-01 "
                    + $"{(release.Item2.Length == 0 ? release.Item4 ? "preview" : "stable" : release.Item2)} {release.Item3}")]);

    [Fact]
    public void They_tell_the_same_version_as_the_whole_card() => Gen.Select(Cards, OneOf(Platforms)).Sample((card, text) =>
    {
        var machine = Platform.Parse(text);
        NewestReleases.VersionFor(NewestReleases.Format(card), machine)
            .ShouldBe(card.ReleasesFor(machine, null).FirstOrDefault()?.Version.Text);
    });

    private static Gen<string> OneOf(params string[] texts) => Gen.Int[0, texts.Length - 1].Select(at => texts[at]);
}
