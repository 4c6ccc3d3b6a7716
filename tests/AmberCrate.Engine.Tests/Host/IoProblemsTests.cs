using System.Net;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Storage;

namespace AmberCrate.Engine.Tests.Host;

public sealed class IoProblemsTests
{
    public static TheoryData<Exception, ProblemCode, string> Exceptions() => new()
    {
        { new IOException("x", 28), ProblemCode.StateNeedsAttention, "the disk is full" },
        { new IOException("x", 122), ProblemCode.StateNeedsAttention, "the disk is full" },
        { new IOException("read-only", 30), ProblemCode.NoRights, "read-only" },
        { new UnauthorizedAccessException("denied"), ProblemCode.NoRights, "denied" },
        { new IOException("odd"), ProblemCode.StateNeedsAttention, "odd" },
        { new EndOfStreamException("short"), ProblemCode.NotVerified, "short" },
        { new MalformedException("no card"), ProblemCode.NotVerified, "no card" },
        { new TimeoutException("silent"), ProblemCode.Unreachable, "silent" },
        { new ServerAnswerException(
            HttpStatusCode.ServiceUnavailable, null), ProblemCode.Unreachable, "the server answers 503 Service Unavailable" },
        { new HttpRequestException(
            "the connection broke", new IOException("reset")), ProblemCode.Unreachable, "the connection broke off" },
        { new DatabaseException("x", 13), ProblemCode.StateNeedsAttention, "the disk is full" },
        { new DatabaseException("x", 5), ProblemCode.Locked, "another program is writing to the database" },
        { new DatabaseException("x", 11), ProblemCode.StateNeedsAttention, "the database is damaged" },
        { new Problem(ProblemCode.Refused, "no", "because").ToException(), ProblemCode.Refused, "because" },
    };

    [Theory]
    [MemberData(nameof(Exceptions), DisableDiscoveryEnumeration = true)]
    public void Exceptions_become_problems(Exception exception, ProblemCode code, string why)
    {
        IoProblems.IsExpected(exception).ShouldBeTrue();
        var problem = IoProblems.ToProblem(exception, "it cannot be done");
        (problem.Code, problem.Why).ShouldBe((code, why));
    }

    [Fact]
    public void Mistakes_of_the_program_are_not_dressed_up() =>
        IoProblems.IsExpected(new InvalidOperationException()).ShouldBeFalse();
}
