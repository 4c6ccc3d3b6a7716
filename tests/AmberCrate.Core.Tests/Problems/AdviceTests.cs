using AmberCrate.Core.Problems;

namespace AmberCrate.Core.Tests.Problems;

public sealed class AdviceTests
{
    private static readonly CallOptions Everything = new("/srv/image one", AllUsers: true);

    private const string Full = "--all-users --root '/srv/image one'";

    public static TheoryData<Advice, string, string> Sayings { get; } = new()
    {
        { NextCommand.Create("retry", "5"), "acrate retry 5", $"acrate retry {Full} 5" },
        {
            Advice.Combine($"{NextCommand.Create("catalogue refresh")}, in case it has changed"),
            "acrate catalogue refresh, in case it has changed", $"acrate catalogue refresh {Full}, in case it has changed"
        },
        {
            Advice.Combine($"{NextCommand.Create("uninstall", "a")}, then {NextCommand.Create("install", "b")}"),
            "acrate uninstall a, then acrate install b", $"acrate uninstall {Full} a, then acrate install {Full} b"
        },
        { NextCommand.HelpOf("install"), "acrate install --help", "acrate install --help" },
        { NextCommand.HelpOf(""), "acrate --help", "acrate --help" },
        { "a newer acrate may read it", "a newer acrate may read it", "a newer acrate may read it" },
        { NextCommand.Create("install", "it's here"), "acrate install 'it'\\''s here'",
            $"acrate install {Full} 'it'\\''s here'" },
        { Advice.Join("; ", [Advice.None, NextCommand.Create("list"), "or nothing"]),
            "acrate list; or nothing", $"acrate list {Full}; or nothing" },
        { Advice.None, "", "" },
    };

    [Theory]
    [MemberData(nameof(Sayings))]
    public void Commands_are_printed_with_the_options_of_the_call(Advice advice, string plain, string full)
    {
        advice.ToString().ShouldBe(plain);
        advice.In(Everything).ShouldBe(full);
        advice.IsEmpty.ShouldBe(plain.Length == 0);
    }

    [Fact]
    public void Two_problems_that_say_the_same_are_equal() =>
        new Problem(ProblemCode.Refused, "a", "b", $"{NextCommand.Create("list")} shows it").ShouldBe(
            new Problem(ProblemCode.Refused, "a", "b", "acrate list shows it"));
}
