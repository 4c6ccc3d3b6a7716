using AmberCrate.Engine.Rights;

namespace AmberCrate.Engine.Tests.Rights;

public sealed class RaisingWayTests
{
    [Theory]
    [InlineData(null, new[] { "pkexec", "sudo", "run0" }, "sudo")]
    [InlineData(null, new[] { "pkexec", "run0" }, "run0")]
    [InlineData(null, new[] { "pkexec" }, "pkexec")]
    [InlineData(null, new string[0], null)]
    [InlineData("pkexec", new[] { "pkexec", "sudo" }, "pkexec")]
    [InlineData("run0", new[] { "sudo" }, null)]
    [InlineData("none", new[] { "sudo" }, null)]
    public void The_way_that_was_set_is_used_or_else_the_first_that_is_there(string? wanted, string[] there, string? found)
    {
        var way = RaisingWay.Find(wanted, name => there.Contains(name) ? $"/usr/bin/{name}" : null);
        way?.Name.ShouldBe(found);
        way?.Program.ShouldBe($"/usr/bin/{found}");
        (way is null).ShouldBe(found is null);
    }

    [Theory]
    [InlineData("sudo", "", "-- acrate list")]
    [InlineData("sudo", "A,B", "--preserve-env=A,B -- acrate list")]
    [InlineData("run0", "A,B", "--chdir=/here --setenv=A --setenv=B -- acrate list")]
    [InlineData("pkexec", "A,B", "--keep-cwd acrate list")]
    public void Variables_are_passed_on_by_name_never_by_value(string name, string kept, string expected)
    {
        var arguments = RaisingWay.Find(name, program => program)!.Arguments(
            "/here", kept.Split(',', StringSplitOptions.RemoveEmptyEntries), ["acrate", "list"]);
        string.Join(' ', arguments).ShouldBe(expected);
    }
}
