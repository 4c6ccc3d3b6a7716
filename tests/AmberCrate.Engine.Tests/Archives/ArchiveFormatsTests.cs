using AmberCrate.Core.Cards;
using AmberCrate.Engine.Archives;
using AmberCrate.Engine.Decoding;

namespace AmberCrate.Engine.Tests.Archives;

public sealed class ArchiveFormatsTests
{
    [Fact]
    public void Every_form_of_a_card_has_one_format() =>
        ArchiveFormats.All.Select(format => format.Format).ShouldBe(Enum.GetValues<ArtifactFormat>(), ignoreOrder: true);

    [Fact]
    public void A_form_without_a_format_is_a_mistake_and_not_a_damaged_archive() =>
        Should.Throw<NotSupportedException>(() => ArchiveFormats.Find((ArtifactFormat)99)).Message.ShouldBe(
            "99 has no reader");

    [Fact]
    public void What_a_foreign_decoder_throws_tells_of_damaged_data_and_what_we_throw_keeps_its_meaning()
    {
        Should.Throw<InvalidDataException>(
            () => ThirdPartyDecoder.Call<int>(() => throw new InvalidOperationException("at 5"))).Message.ShouldBe("at 5");
        Should.Throw<EndOfStreamException>(() => ThirdPartyDecoder.Call<int>(() => throw new EndOfStreamException("here")));
        Should.Throw<OperationCanceledException>(() => ThirdPartyDecoder.Call<int>(() => throw new OperationCanceledException()));
    }
}
