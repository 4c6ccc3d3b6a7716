using System.Diagnostics;
using AmberCrate.Tests;

namespace AmberCrate.Engine.Tests.Host;

/// <summary>The helper that keeps a test from waiting for ever for a program.</summary>
public sealed class ProcessLimitsTests
{
    private static readonly TimeSpan Short = TimeSpan.FromSeconds(1);

    [Theory]
    [InlineData("echo begun; sleep 600")]
    [InlineData("echo begun; sleep 600 & wait")]
    [InlineData("echo begun >&2; trap '' INT TERM; while :; do sleep 1; done")]
    public async Task A_program_that_hangs_is_killed_and_the_test_fails_with_what_it_wrote(string script)
    {
        using var process = Start(script);
        var errors = process.ReadErrorsAsync(Short);
        var output = process.ReadOutputAsync(Short);
        (await Should.ThrowAsync<TimeoutException>(output)).Message.ShouldEndWith("it had written:\nbegun\n");
        (await Should.ThrowAsync<TimeoutException>(errors)).Message.ShouldContain($"/bin/sh -c {script} was killed");
        process.HasExited.ShouldBeTrue();
    }

    [Fact]
    public async Task A_program_that_ends_says_all_it_wrote()
    {
        using var process = Start("echo said; echo wrong >&2; exit 3");
        var errors = process.ReadErrorsAsync();
        process.ReadOutput().ShouldBe("said\n");
        (await errors).ShouldBe("wrong\n");
        process.EndInTime();
        process.ExitCode.ShouldBe(3);
    }

    [Fact]
    public void Waiting_for_the_end_is_limited_too()
    {
        using var process = Start("sleep 600");
        Should.Throw<TimeoutException>(() => process.EndInTime(Short));
        process.EndInTime();
    }

    private static Process Start(string script) => Process.Start(new ProcessStartInfo("/bin/sh", ["-c", script])
    {
        RedirectStandardOutput = true, RedirectStandardError = true, UseShellExecute = false,
    })!;
}
