using AmberCrate.Core.Cards;
using AmberCrate.Core.Due;
using AmberCrate.Core.Tests.Cards;

namespace AmberCrate.Core.Tests.Planning;

/// <summary>What a card states differently since an app was installed.</summary>
public sealed class CardChangeTests
{
    private static readonly AppCard Plain = CardSamples.With("scrim-paint", "4.1.0 2026-01-01", "4.2.0 2026-02-01") with
    {
        Licence = null,
        Homepage = null,
        Developer = null,
        SignIn = null,
        LicenceKey = null,
    };

    public static TheoryData<string, string> Pairs => new()
    {
        { "licence MIT > licence MIT", "" },
        { "licence MIT > licence mit", "" },
        { "licence MIT > licence GPL-3.0-or-later", "licence is now GPL-3.0-or-later (was MIT)" },
        { "licence MIT >", "licence is no longer stated (was MIT)" },
        { "> licence MIT", "" },
        { "key none > key required", "now needs a licence key" },
        { "key optional > key required", "now needs a licence key" },
        { "> key required", "now needs a licence key" },
        { "key required > key required", "" },
        { "key required > key none", "" },
        { "key none > key optional", "" },
        { "sign-in optional > sign-in required", "now needs a sign-in" },
        { "sign-in required > sign-in optional", "" },
        { "developer Battenworks > developer Battenworks", "" },
        { "developer Battenworks > developer Propworks", "developer is now Propworks (was Battenworks)" },
        { "developer Battenworks/bw > developer Battens/bw", "" },
        { "developer Battenworks/bw > developer Battenworks/pw", "developer is now Battenworks (pw) (was Battenworks)" },
        { "developer Battenworks/bw > developer Battenworks", "" },
        { "developer Battenworks >", "developer is no longer stated (was Battenworks)" },
        { "> developer Battenworks", "" },
        { "homepage https://a.example > homepage https://a.example/", "" },
        { "homepage https://a.example > homepage https://b.example",
            "homepage is now https://b.example (was https://a.example)" },
        { "homepage https://a.example >", "" },
        { "licence MIT, sign-in none > licence Zlib, sign-in required", "licence is now Zlib (was MIT); now needs a sign-in" },
    };

    [Theory]
    [MemberData(nameof(Pairs))]
    public void A_change_that_a_person_may_want_to_decide_on_is_named(string pair, string expected)
    {
        var (kept, offered) = (CardOf(pair.Split('>')[0]), CardOf(pair.Split('>')[1]));
        string.Join("; ", CardChange.Between(kept, offered).Select(change => change.Words)).ShouldBe(expected);
    }

    [Theory]
    [InlineData("scrim-paint 4.1.0 guild", "licence is now Zlib (was MIT)")]
    [InlineData("scrim-paint 4.1.0 guild 4.1.x", "licence is now Zlib (was MIT)")]
    [InlineData("scrim-paint 4.2.0 guild", "")]
    public void Due_names_it_for_apps_with_a_newer_release(string installed, string expected)
    {
        var machine = FixedOffers.Machine(installed);
        machine = new Core.Machine.MachineState(machine.Platform, machine.Apps) { InstalledCard = _ => CardOf("licence MIT") };
        var entry = DueEntry.All(machine, new FixedOffers(("guild", CardOf("licence Zlib")))).ShouldHaveSingleItem();
        string.Join("; ", entry.CardChanges.Select(change => change.Words)).ShouldBe(expected);
    }

    [Fact]
    public void Every_kind_occurs_in_the_table()
    {
        var kinds = Pairs.SelectMany(row => CardChange.Between(
            CardOf(row.Data.Item1.Split('>')[0]), CardOf(row.Data.Item1.Split('>')[1]))).Select(change => change.Kind);
        kinds.Distinct().Order().ShouldBe(Enum.GetValues<CardChangeKind>());
    }

    private static AppCard CardOf(string words) => words.Trim().Split(", ").Aggregate(Plain, (card, word) =>
        word.Split(' ') switch
    {
        ["licence", var licence] => card with { Licence = licence },
        ["key", var key] => card with { LicenceKey = CardWords.SignIns.Read(key) },
        ["sign-in", var need] => card with { SignIn = CardWords.SignIns.Read(need) },
        ["homepage", var page] => card with { Homepage = page },
        ["developer", var name] => card with
        {
            Developer = new Developer(name.Split('/')[0], name.Split('/').ElementAtOrDefault(1)),
        },
        [""] => card,
        _ => throw new ArgumentException(word, nameof(words)),
    });
}
