using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Formats;

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
}
