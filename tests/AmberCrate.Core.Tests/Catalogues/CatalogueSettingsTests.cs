using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Problems;

namespace AmberCrate.Core.Tests.Catalogues;

public sealed class CatalogueSettingsTests
{
    [Theory]
    [InlineData("Stagecraft guild", "stagecraft-guild")]
    [InlineData("Réserve à décors n° 7", "reserve-a-decors-n-7")]
    [InlineData("7 stages", "catalogue")]
    [InlineData("劇場", "catalogue")]
    [InlineData("An exceedingly long title of a catalogue for stages", "an-exceedingly-long-title-of-a-catalogue")]
    public void A_title_suggests_a_name(string title, string name) =>
        new CatalogueSettings(title).SuggestedName.Text.ShouldBe(name);

    [Fact]
    public void A_name_that_is_stated_is_taken_and_travels_with_the_catalogue()
    {
        var faults = new List<FormatFault>();
        var settings = CatalogueSettings.Read("catalogue = 1\ntitle = \"T\"\nname = \"guild\"\n", "catalogue.toml", faults)!;
        settings.SuggestedName.Text.ShouldBe("guild");
        CatalogueDocument.Read(new CatalogueDocument(settings, 1, []).Write()).Settings.Name.ShouldBe(settings.Name);
        CatalogueSettings.Read("catalogue = 1\ntitle = \"T\"\nname = \"Two words\"\n", "catalogue.toml", faults).ShouldBeNull();
        faults.ShouldHaveSingleItem().Key.ShouldBe("name");
    }

    [Theory]
    [InlineData("words = [\"script+merge\", \"cue sheet\"]", null)]
    [InlineData("categories = [\"Audio+Player\"]", null)]
    [InlineData("words = [\"c++\"]", null)]
    [InlineData("words = [\"script+\"]\ncategories = [\"Audio\"]", "words: expected letters or digits in each")]
    [InlineData("words = [\"cue\", \"+\"]", "words: expected letters or digits in each")]
    [InlineData("words = [\"cue\", \"!?\"]", "words: expected letters or digits in each")]
    [InlineData("words = [\"cue\"]\ncategories = [\"+Audio\"]", "categories: expected letters or digits in each")]
    [InlineData("words = []", "categories: expected a category, or words")]
    public void A_purpose_tells_apps_by_words_and_categories(string signs, string? fault)
    {
        var faults = new List<FormatFault>();
        var text = $"catalogue = 1\ntitle = \"T\"\n[[purposes]]\nasked = [\"print cues\"]\n{signs}\n";
        var settings = CatalogueSettings.Read(text, "catalogue.toml", faults);
        if (fault is null) settings.ShouldNotBeNull().Purposes.ShouldHaveSingleItem();
        else faults.ShouldHaveSingleItem().ToString().ShouldContain(fault);
    }
}
