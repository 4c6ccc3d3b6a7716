using AmberCrate.Core.Versions;
using CsCheck;

namespace AmberCrate.Core.Tests.Versions;

public sealed class VersionOrderTests
{
    /// <summary>Pieces of which versions are made, so that random ones collide often enough to matter.</summary>
    private static readonly string[] Pieces =
        ["0", "1", "01", "2", "10", ".", ".", "-", "~", "^", "_", "+", "a", "b", "rc", "RC", "beta", "alpha", "pre", "dev", "x"];

    private static readonly Gen<string> AnyVersion = Gen.Int[0, Pieces.Length - 1].Array[0, 8]
        .Select(pieces => "1" + string.Concat(pieces.Select(piece => Pieces[piece])));

    [Theory]
    [InlineData("11", "11", 0)]
    [InlineData("systemd-123", "systemd-123", 0)]
    [InlineData("bar-123", "foo-123", -1)]
    [InlineData("123a", "123", 1)]
    [InlineData("123.a", "123", 1)]
    [InlineData("123.a", "123.b", -1)]
    [InlineData("123a", "123.a", 1)]
    [InlineData("11α", "11β", 0)]
    [InlineData("A", "a", -1)]
    [InlineData("", "0", -1)]
    [InlineData("0.", "0", 1)]
    [InlineData("0.0", "0", 1)]
    [InlineData("0", "~", 1)]
    [InlineData("", "~", 1)]
    [InlineData("1_", "1", 0)]
    [InlineData("_1", "1", 0)]
    [InlineData("1_", "1.2", -1)]
    [InlineData("1_2_3", "1.3.3", 1)]
    [InlineData("1+", "1", 0)]
    [InlineData("+1", "1", 0)]
    [InlineData("1+2+3", "1.3.3", 1)]
    [InlineData("00123", "123", 0)]
    [InlineData("1.99999999999999999999999", "1.100000000000000000000000", -1)]
    public void The_specification_compares(string left, string right, int expected)
    {
        Math.Sign(UapiOrder.Compare(left, right)).ShouldBe(expected);
        Math.Sign(UapiOrder.Compare(right, left)).ShouldBe(-expected);
    }

    [Fact]
    public void The_specification_orders_its_own_example()
    {
        string[] ascending =
        [
            "122.1", "123~rc1-1", "123", "123-a", "123-a.1", "123-1", "123-1.1", "123^post1", "123.a-1", "123.1-1", "123a-1",
            "124-1",
        ];
        ascending.Reverse().Order(Comparer<string>.Create((left, right) => UapiOrder.Compare(left, right))).ShouldBe(ascending);
    }

    [Theory]
    [InlineData("1.0-dev", "1.0-alpha", "1.0-beta", "1.0-pre", "1.0-rc", "1.0")]
    [InlineData("1.0-alpha.1", "1.0-alpha.2", "1.0-alpha.10", "1.0-beta.1", "1.0-rc.1", "1.0", "1.0.1")]
    [InlineData("2.0.dev3", "2.0.0")]
    [InlineData("4.9", "5.0beta1", "5.0.1")]
    [InlineData("3.1-SNAPSHOT", "3.1-nightly4", "3.1-milestone2", "3.1-RC1", "3.1-RC2", "3.1")]
    [InlineData("7.0_rc1", "7.0-rc2", "7.0rc3", "7.0.rc.4", "7.0~rc5", "7.0")]
    [InlineData("1.0-preview", "1.0-preview2", "1.0", "1.0-1", "1.0.0")]
    [InlineData("1.0.2", "1.0.2a", "1.0.2b", "1.0.3")]
    [InlineData("1.8", "1.9", "1.10", "2")]
    [InlineData("2026.01", "2026.11", "2027.1")]
    public void Pre_releases_come_before_what_they_lead_to(params string[] ascending)
    {
        for (var older = 0; older < ascending.Length; older++)
        {
            for (var newer = older + 1; newer < ascending.Length; newer++)
            {
                AppVersion.Parse(ascending[older])
                    .CompareTo(AppVersion.Parse(ascending[newer]))
                    .ShouldBeLessThan(0, $"{ascending[older]} before {ascending[newer]}");
            }
        }
    }

    [Theory]
    [InlineData("1.0-rc1", true)]
    [InlineData("1.0beta", true)]
    [InlineData("1.0~x", true)]
    [InlineData("1.0-dev.20260101", true)]
    [InlineData("1.0a", false)]
    [InlineData("1.0-1", false)]
    [InlineData("1.0-arch", false)]
    [InlineData("1.0-precise", false)]
    public void Pre_releases_are_told_from_releases(string version, bool expected) =>
        AppVersion.Parse(version).IsPreRelease.ShouldBe(expected);

    [Fact]
    public void The_order_is_antisymmetric() => Gen.Select(AnyVersion, AnyVersion).Sample((left, right) =>
    {
        if (!Both(left, right, out var a, out var b)) return true;
        return Math.Sign(a.CompareTo(b)) == -Math.Sign(b.CompareTo(a));
    }, iter: 20_000);

    [Fact]
    public void The_order_is_transitive() => Gen.Select(AnyVersion, AnyVersion, AnyVersion).Sample((x, y, z) =>
    {
        if (!Both(x, y, out var a, out var b) || !AppVersion.TryParse(z, out var c)) return true;
        var ascending = new[] { a, b, c }.Order().ToArray();
        return ascending[0] <= ascending[1] && ascending[1] <= ascending[2] && ascending[0] <= ascending[2];
    }, iter: 20_000);

    [Fact]
    public void Versions_are_equal_exactly_where_the_specification_says_so() =>
        Gen.Select(AnyVersion, AnyVersion).Sample((left, right) =>
    {
        if (!Both(left, right, out var a, out var b)) return true;
        var equal = UapiOrder.Compare(left, right) == 0;
        return (a == b) == equal && (!equal || a.GetHashCode() == b.GetHashCode());
    }, iter: 20_000);

    [Theory]
    [InlineData("")]
    [InlineData("v1.0")]
    [InlineData("1.0/2")]
    [InlineData("1..2")]
    [InlineData("4.x")]
    [InlineData("1 0")]
    [InlineData("1.0\n")]
    public void What_is_no_version_is_refused(string text)
    {
        AppVersion.TryParse(text, out _).ShouldBeFalse();
        Should.Throw<FormatException>(() => AppVersion.Parse(text)).Message.ShouldContain(
            "expected a version that begins with a digit");
    }

    [Fact]
    public void A_version_that_is_too_long_is_refused()
    {
        AppVersion.TryParse(new string('1', AppVersion.MaxLength), out _).ShouldBeTrue();
        AppVersion.TryParse(new string('1', AppVersion.MaxLength + 1), out _).ShouldBeFalse();
    }

    private static bool Both(string left, string right, out AppVersion a, out AppVersion b)
    {
        var read = AppVersion.TryParse(left, out var first) & AppVersion.TryParse(right, out var second);
        (a, b) = (first!, second!);
        return read;
    }
}
