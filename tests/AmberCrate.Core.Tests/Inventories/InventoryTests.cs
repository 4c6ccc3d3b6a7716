using System.Text.Json;
using AmberCrate.Core.Bundles;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Inventories;
using AmberCrate.Core.Pins;
using AmberCrate.Core.Tests.Cards;
using AmberCrate.Core.Tests.Planning;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Tests.Inventories;

public sealed class InventoryTests
{
    private static readonly DateTimeOffset Now = new(2026, 11, 26, 8, 0, 0, TimeSpan.Zero);

    [Fact]
    public void A_cell_is_quoted_and_no_formula()
    {
        var lines = InventoryText.Csv(Of(pin: "=1+1, \"now\"", "a 1 guild")).Split("\r\n");
        lines[0].ShouldStartWith("id,name,version,catalogue,follows,pinned_to,pin_reason");
        lines[1].ShouldStartWith("a,a,1,guild,,1,\"'=1+1, \"\"now\"\"\",,yes,1970-01-01T00:00:00Z,,MIT,Gaslight Loft,");
    }

    [Fact]
    public void A_script_cannot_be_broken_out_of()
    {
        var script = InventoryText.Script(Of(pin: "x\nrm -rf ~\n'; reboot '", "a 1 guild") with { Machine = "m\nrm -rf /" });
        script.Split('\n').ShouldNotContain("rm -rf /");
        script.Split('\n').ShouldNotContain("rm -rf ~");
        script.ShouldContain("#   acrate pin a@1 --reason 'x rm -rf ~ '");
        script.ShouldContain("reason = \"x\\u000Arm -rf ~");
    }

    [Fact]
    public void A_list_has_exact_versions_and_says_what_is_not_in_it() =>
        InventoryText.List(Of(null, "a 1 guild 1.x", "b 2 loft")).ShouldBe("""
            # m, 2026-11-26: acrate install --list-file FILE
            guild:a@1   # a
            # not in the list: b 2: its catalogue loft is not known here any more

            """);

    [Fact]
    public void An_app_that_came_in_several_files_lists_each_with_its_digest()
    {
        var (program, data) = (Sha256Digest.Parse(new string('a', 64)), Sha256Digest.Parse(new string('b', 64)));
        var inventory = Of(null, "a 1 guild");
        var item = inventory.Items[0];
        inventory = inventory with
        {
            Items = [item with
            {
                App = item.App with
                {
                    Sha256 = Delivery.Combine([program, data]),
                    SeveralFiles = [new("https://a.example/p.deb", program), new("/srv/d.deb", data)],
                },
            }],
        };
        using var cyclone = JsonDocument.Parse(CycloneDx.Write(inventory));
        var component = cyclone.RootElement.GetProperty("components")[0];
        component.TryGetProperty("hashes", out _).ShouldBeFalse("the digest of several files is that of none");
        component.GetProperty("purl").GetString().ShouldBe("pkg:generic/a@1");
        component.GetProperty("components").EnumerateArray()
            .Select(file => $"{file.GetProperty("name")} {file.GetProperty("hashes")[0].GetProperty("content")}")
            .ShouldBe([$"p.deb {program.Hex}", $"d.deb {data.Hex}"]);
        using var spdx = JsonDocument.Parse(SpdxDocument.Write(inventory));
        spdx.RootElement.GetProperty("packages").EnumerateArray()
            .Select(one => $"{one.GetProperty("SPDXID")} {one.GetProperty("downloadLocation")}").ShouldBe(
            ["SPDXRef-a NOASSERTION", "SPDXRef-a-file-1 https://a.example/p.deb", "SPDXRef-a-file-2 NOASSERTION"]);
        spdx.RootElement.GetProperty("relationships").EnumerateArray()
            .Count(one => one.GetProperty("relationshipType").GetString() == "CONTAINS").ShouldBe(2);
    }

    [Fact]
    public void Dependencies_and_licences_are_in_both_software_lists()
    {
        var inventory = Of(null, "a 1 guild", "b 2 guild");
        var items = inventory.Items.ToList();
        items[0] = items[0] with { App = items[0].App with { Needs = [RelatedTo("b"), RelatedTo("gone")] } };
        items[1] = items[1] with { App = items[1].App with { IsDependency = true, Source = "https://a.example/b?c=d&e" } };
        inventory = inventory with { Items = items };
        using var cyclone = JsonDocument.Parse(CycloneDx.Write(inventory));
        cyclone.RootElement.GetProperty("dependencies").EnumerateArray()
            .Select(one => $"{one.GetProperty("ref")}: "
                + string.Join(' ', one.GetProperty("dependsOn").EnumerateArray().Select(on => on.GetString())))
            .ShouldBe(["machine: a", "a: b", "b: "]);
        using var spdx = JsonDocument.Parse(SpdxDocument.Write(inventory));
        spdx.RootElement.GetProperty("relationships").EnumerateArray()
            .Select(one => $"{one.GetProperty("spdxElementId")} {one.GetProperty("relationshipType")} "
                + one.GetProperty("relatedSpdxElement")).ShouldBe([
                "SPDXRef-DOCUMENT DESCRIBES SPDXRef-a", "SPDXRef-DOCUMENT DESCRIBES SPDXRef-b", "SPDXRef-a DEPENDS_ON SPDXRef-b",
            ]);
        spdx.RootElement.GetProperty("packages")[1].GetProperty("externalRefs")[0].GetProperty("referenceLocator").GetString()
            .ShouldBe($"pkg:generic/b@2?checksum=sha256:{CardSamples.Digest}&download_url=https:%2F%2Fa.example%2Fb%3Fc%3Dd%26e");
    }

    [Theory]
    [InlineData("MIT", 0)]
    [InlineData("LicenseRef-guild OR (LicenseRef-house AND MIT)", 2)]
    [InlineData("DocumentRef-x:LicenseRef-y", 0)]
    public void Licences_that_spdx_does_not_list_are_explained(string licence, int count)
    {
        var inventory = Of(null, "a 1 guild");
        inventory = inventory with
        {
            Items = [.. inventory.Items.Select(item => item with { Card = item.Card! with { Licence = licence } })],
        };
        using var spdx = JsonDocument.Parse(SpdxDocument.Write(inventory));
        var own = spdx.RootElement.TryGetProperty("hasExtractedLicensingInfos", out var found) ? found.GetArrayLength() : 0;
        own.ShouldBe(count);
    }

    [Fact]
    public void The_same_machine_has_the_same_serial_number_on_another_day()
    {
        SerialOf(Of(null, "a 1 guild") with { Taken = Now.AddDays(9) }).ShouldBe(SerialOf(Of(null, "a 1 guild")));
        SerialOf(Of(null, "a 2 guild")).ShouldNotBe(SerialOf(Of(null, "a 1 guild")));
    }

    private static string? SerialOf(Inventory inventory)
    {
        using var json = JsonDocument.Parse(CycloneDx.Write(inventory));
        return json.RootElement.GetProperty("serialNumber").GetString();
    }

    private static RelatedApp RelatedTo(string id) => new(AppId.Parse(id), null);

    private static Inventory Of(string? pin, params string[] apps)
    {
        var installed = apps.Select(FixedOffers.Installed).ToList();
        var card = CardSamples.With("a", "1 2026-01-01") with { Licence = "MIT", Developer = new Developer("Gaslight Loft") };
        var bundle = BundleCapturing.Capture(
            installed, [new BundleCatalogue(CatalogueName.Parse("guild"), "/guild")],
            new BundleCapture("m", new DateOnly(2026, 11, 26)), BundleVersions.Exact, pins: pin is null ? [] :
            [
                new Pin(AppId.Parse("a"), new VersionSelector.Exactly(AppVersion.Parse("1"))) { Reason = pin },
            ]);
        return new Inventory("m", Now, "0.1.0", [.. installed.Select(app => new InventoryItem(app, card))], bundle);
    }
}
