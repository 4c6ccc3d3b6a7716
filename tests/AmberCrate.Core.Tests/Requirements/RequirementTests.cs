using AmberCrate.Core.Requirements;

namespace AmberCrate.Core.Tests.Requirements;

/// <summary>What cards may require, how Debian's versions are ordered, and what is given to people to paste.</summary>
public sealed class RequirementTests
{
    [Theory]
    [InlineData("1.0", "1.0", 0)]
    [InlineData("1.0", "1.00", 0)]
    [InlineData("1.0~rc1", "1.0", -1)]
    [InlineData("1.0~", "1.0~~", 1)]
    [InlineData("1.0", "1.0-1", -1)]
    [InlineData("1.0-0", "1.0", 0)]
    [InlineData("1:0.1", "9.9", 1)]
    [InlineData("1.10", "1.9", 1)]
    [InlineData("1.0a", "1.0+", -1)]
    [InlineData("2.36-9+deb12u7", "2.36-9", 1)]
    [InlineData("1.0-1-2", "1.0-1.5-1", -1)]
    public void Versions_of_Debian_are_ordered_as_their_manual_says(string one, string other, int expected)
    {
        Math.Sign(DebianVersionOrder.Compare(one, other)).ShouldBe(expected);
        Math.Sign(DebianVersionOrder.Compare(other, one)).ShouldBe(-expected);
    }

    [Theory]
    [InlineData("libgauze2", "libgauze2", null)]
    [InlineData("libgauze2>=1:1.4-2~bpo1", "libgauze2", "1:1.4-2~bpo1")]
    [InlineData("--force", null, null)]
    [InlineData("a;reboot", null, null)]
    [InlineData("a b", null, null)]
    [InlineData("$(reboot)", null, null)]
    [InlineData("a>=", null, null)]
    [InlineData("a>=1 2", null, null)]
    [InlineData("", null, null)]
    public void A_package_is_a_name_that_means_nothing_to_a_shell(string text, string? name, string? least)
    {
        SystemPackage.TryParse(text, out var package).ShouldBe(name is not null);
        (package?.Name, package?.Least).ShouldBe((name, least));
        package?.ToString().ShouldBe(text);
    }

    [Theory]
    [InlineData(RequirementKind.Library, "libgauze.so.2", true)]
    [InlineData(RequirementKind.Library, "../libgauze.so.2", false)]
    [InlineData(RequirementKind.Library, "-lgauze", false)]
    [InlineData(RequirementKind.Interpreter, "/usr/bin/python3", true)]
    [InlineData(RequirementKind.Interpreter, "bin/python3", false)]
    [InlineData(RequirementKind.Interpreter, "/usr/../python3", false)]
    [InlineData(RequirementKind.Module, "Gauze::Cloth", true)]
    [InlineData(RequirementKind.Module, "os;reboot", false)]
    [InlineData(RequirementKind.Typelib, "Gauze-2.0", true)]
    [InlineData(RequirementKind.File, "/usr/share/gauze", true)]
    [InlineData(RequirementKind.File, "/usr/share/gauze/", false)]
    [InlineData(RequirementKind.File, "/usr/\nshare", false)]
    [InlineData(RequirementKind.Program, "gauze view", false)]
    [InlineData(RequirementKind.Package, "gauze-data", true)]
    public void A_name_is_what_its_kind_allows(RequirementKind kind, string name, bool isValid) =>
        (new SystemRequirement { Kind = kind, Name = name }.Fault is null).ShouldBe(isValid);

    [Theory]
    [InlineData("3", true)]
    [InlineData("3.11.2.1", true)]
    [InlineData("1.2.3.4.5", false)]
    [InlineData("3..1", false)]
    [InlineData("123456789", false)]
    [InlineData("3.x", false)]
    public void A_least_version_is_up_to_four_numbers(string text, bool isValid) =>
        SystemRequirement.IsLeast(text).ShouldBe(isValid);

    [Fact]
    public void The_line_to_paste_has_each_package_once_in_order_and_in_quotes_where_a_shell_would_read_it()
    {
        var library = new SystemRequirement { Kind = RequirementKind.Library, Name = "libgauze.so.2" };
        SystemLack[] lacks =
        [
            new(library, null, "libgauze.so.2()(64bit)"), new(library, null, "b"), new(library, null, "b"),
            new(library, "too old", null), new(library, null, null),
        ];
        InstallLine.Compose(lacks, ("dnf", "install"), isRoot: false).ShouldBe("sudo dnf install b 'libgauze.so.2()(64bit)'");
        InstallLine.Compose(lacks, ("apt-get", "install"), isRoot: true).ShouldStartWith("apt-get install ");
        InstallLine.Compose(lacks, null, isRoot: true).ShouldBeNull();
        InstallLine.Compose(lacks.Where(lack => lack.Package is null), ("dnf", "install"), isRoot: true).ShouldBeNull();
    }

    [Theory]
    [InlineData(RequirementKind.Library, "libgauze-2.so.1", null, "libgauze-2-1 libgauze-2-1t64 libgauze-2-1v5",
        "libgauze-2.so.1()(64bit)")]
    [InlineData(RequirementKind.Module, "Gauze::Cloth", "perl", "libgauze-cloth-perl", "perl(Gauze::Cloth)")]
    [InlineData(RequirementKind.Module, "yaml.loader", "python3", "python3-yaml", null)]
    [InlineData(RequirementKind.Typelib, "Gauze-2.0", null, "gir1.2-gauze-2.0", "typelib(Gauze) = 2.0")]
    [InlineData(RequirementKind.Interpreter, "/usr/bin/perl", null, "perl", "/usr/bin/perl")]
    [InlineData(RequirementKind.File, "/usr/share/gauze", null, "", "/usr/share/gauze")]
    public void Families_have_rules_for_names(RequirementKind kind, string name, string? of, string debian, string? rpm)
    {
        var requirement = new SystemRequirement { Kind = kind, Name = name, Of = of };
        string.Join(' ', PackageNames.OfDebian(requirement)).ShouldBe(debian);
        PackageNames.RpmCapability(requirement).ShouldBe(rpm);
    }
}
