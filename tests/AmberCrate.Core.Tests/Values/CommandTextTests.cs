using AmberCrate.Core.Machine;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Tests.Values;

public sealed class CommandTextTests
{
    [Theory]
    [InlineData("acrate retry 5", "acrate retry --everyone 5")]
    [InlineData("acrate catalogue refresh, in case it has changed", "acrate catalogue refresh --everyone, in case it has changed")]
    [InlineData("close it, then acrate retry; --even-open changes it", "close it, then acrate retry --everyone; --even-open changes it")]
    [InlineData("acrate uninstall a, then acrate install b", "acrate uninstall --everyone a, then acrate install --everyone b")]
    [InlineData("acrate install --help", "acrate install --help")]
    [InlineData("acrate upgrade --everyone", "acrate upgrade --everyone")]
    [InlineData("a newer acrate may read it", "a newer acrate may read it")]
    [InlineData("acrate catalogue build CARDS-DIR OUT-DIR", "acrate catalogue build CARDS-DIR OUT-DIR")]
    [InlineData("", "")]
    public void Commands_for_people_to_type_are_meant_for_the_scope_that_they_work_on(string forOne, string forEveryone)
    {
        CommandText.In(InstallScope.Everyone, forOne).ShouldBe(forEveryone);
        CommandText.In(InstallScope.ThisUser, forOne).ShouldBe(forOne);
        var problem = new Problem(ProblemCode.Refused, "acrate list", "acrate list", forOne);
        CommandText.In(InstallScope.Everyone, problem).ShouldBe(problem with { Remedy = forEveryone });
    }
}
