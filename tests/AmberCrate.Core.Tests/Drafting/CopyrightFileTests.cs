using AmberCrate.Core.Drafting;

namespace AmberCrate.Core.Tests.Drafting;

/// <summary>Licences in machine-readable copyright files.</summary>
public sealed class CopyrightFileTests
{
    [Theory]
    [InlineData("GPL-2+", "GPL-2.0-or-later")]
    [InlineData("GPL-3", "GPL-3.0-only")]
    [InlineData("LGPL-2.1+", "LGPL-2.1-or-later")]
    [InlineData("AGPL-3.0-or-later", "AGPL-3.0-or-later")]
    [InlineData("GFDL-1.3-no-invariants", "GFDL-1.3-only")]
    [InlineData("Expat", "MIT")]
    [InlineData("GPL-2+ or Expat", "GPL-2.0-or-later OR MIT")]
    [InlineData("GPL-2+ or Expat, and BSD-3-clause", "(GPL-2.0-or-later OR MIT) AND BSD-3-Clause")]
    [InlineData("public-domain", "LicenseRef-public-domain")]
    [InlineData("Apache-2.0", "Apache-2.0")]
    [InlineData("GPL-2+ with gauze exception", null)]
    [InlineData("gauze-licence", null)]
    [InlineData("GPL-77", null)]
    public void Short_names_become_expressions_of_SPDX(string text, string? expected) =>
        CopyrightFile.ToSpdx(text).ShouldBe(expected);

    [Fact]
    public void The_licences_of_all_files_are_joined_except_that_of_the_packaging()
    {
        var (licence, unknown) = CopyrightFile.Read("""
            Format: https://www.debian.org/doc/packaging-manuals/copyright-format/1.0/
            Upstream-Name: scrim

            Files: *
            Copyright: 2026 Gaslight Loft
            License: GPL-2+

            Files: src/cloth.c src/hem.c
            Copyright: 2025 Gaslight Loft
            License: Expat or BSD-3-clause

            Files: debian/*
            Copyright: 2026 Batten Works
            License: Apache-2.0

            License: GPL-2+
             This text is long.
             .
             Files: none of this is a paragraph.
            """);
        (licence, unknown.Count).ShouldBe(("GPL-2.0-or-later AND (MIT OR BSD-3-Clause)", 0));
    }

    [Fact]
    public void What_is_not_understood_is_named_and_nothing_is_claimed() =>
        CopyrightFile.Read("Format: x\n\nFiles: *\nLicense: gauze-licence\n\nFiles: a\nLicense: Expat\n")
            .ShouldSatisfyAllConditions(read => read.Licence.ShouldBeNull(), read => read.Unknown.ShouldBe(["gauze-licence"]));

    [Theory]
    [InlineData("Gaslight Loft <loft@example>", "Gaslight Loft")]
    [InlineData("\"A. Hemmer\" <a@example>", "A. Hemmer")]
    [InlineData("https://example/loft", null)]
    [InlineData("loft@example", null)]
    [InlineData("A. Hemmer, B. Gauze", null)]
    [InlineData("A. Hemmer <a@example>,\n B. Gauze <b@example>", null)]
    [InlineData("\n A. Hemmer", null)]
    public void The_maker_is_named_where_it_is_one(string contact, string? maker)
    {
        CopyrightFile.FindMaker($"Format: x\nUpstream-Contact: {contact}\n\nFiles: *\nLicense: Expat\n").ShouldBe(maker);
        CopyrightFile.FindMaker($"Upstream-Contact: {contact}\n").ShouldBeNull();
    }

    [Fact]
    public void A_file_for_people_says_nothing() => CopyrightFile.Read("Under the GPL.\n\nLicense: MIT\n").Licence.ShouldBeNull();
}
