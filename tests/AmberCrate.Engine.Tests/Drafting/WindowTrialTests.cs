using System.Diagnostics;
using AmberCrate.Core.Trials;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Drafting;
using AmberCrate.Engine.Installers;
using AmberCrate.Engine.Publishing;

namespace AmberCrate.Engine.Tests.Drafting;

/// <summary>Programs that are started under a real X server, confined.</summary>
public sealed class WindowTrialTests : IDisposable
{
    private static readonly TimeSpan Time = TimeSpan.FromSeconds(12);
    private readonly OperationStage _stage = new(withGuild: false);

    public WindowTrialTests()
    {
        Assert.SkipWhen(WindowTrial.Obstacle(new Confinement()) is { } obstacle, "nothing can be started here");
        Assert.SkipUnless(File.Exists("/usr/bin/xmessage"), "xmessage is missing here");
    }

    [Fact]
    public async Task What_each_program_does_is_seen_and_none_of_it_is_left_running()
    {
        Pack("scrim", "exec xmessage -title 'Scrim Paint' -name \"$1\" hello");
        Pack("silent", "exec sleep 600");
        Pack("broken", "echo \"$0: cannot open shared object file\" >&2; exit 127");
        Pack("quick", "exec true");
        Pack("lists", "grep -c . /etc/passwd; id -un; [ -w / ] || echo closed; test -e /root || echo away; exit 1");
        var result = await new CheckCards(_stage.Session()).RunAsync(
            new CheckCardsRequest([_stage["cards"]], null, false) { StartTime = TimeSpan.FromSeconds(4) }, default);
        result.Trials.Select(trial => $"{trial.App} {trial.Version} {string.Join(", ", trial.Starts.Select(
            start => $"{start.Start}: {start.Outcome} {start.Words}"))}").ShouldBe(
        [
            "broken 1.0 menu entry broken: Failed ended with 127: broken: cannot open shared object file",
            "lists 1.0 menu entry lists: Failed ended with 1: away",
            "quick 1.0 menu entry quick: Ended ended with 0",
            "scrim 1.0 menu entry scrim: Window opened the window \"Scrim Paint\"",
            "silent 1.0 menu entry silent: NoWindow no window after 4 s",
        ]);
        result.Findings.Where(finding => finding.Key == "place").Select(finding => $"{finding.File} {finding.IsFault}")
            .ShouldBe(["broken.appcard.toml True", "lists.appcard.toml True", "silent.appcard.toml False"]);
        Process.GetProcessesByName("Xvfb").Where(server => server.StartTime > DateTime.Now.AddMinutes(-1)).ShouldBeEmpty();
    }

    [Fact]
    public async Task What_the_system_lacks_or_is_not_here_is_not_tried()
    {
        Pack("scrim", "exec true", "system = [{ kind = \"library\", name = \"libgauze.so.99\" }]");
        Pack("away", "exec true");
        File.Delete(_stage["cards", "files", "away"]);
        var result = await new CheckCards(_stage.Session()).RunAsync(
            new CheckCardsRequest([_stage["cards"]], null, false) { StartTime = Time }, default);
        result.Trials.Select(trial => $"{trial.App} {trial.Starts.Single()}").ShouldBe(
        [
            "away StartTrialResult { Start = nothing, Outcome = NotTried, Words = files/away is not beside the card }",
            "scrim StartTrialResult { Start = nothing, Outcome = NotTried, Words = the system lacks libgauze.so.99 }",
        ]);
    }

    [Fact]
    public async Task What_is_mapped_lies_over_the_system_and_the_rest_of_it_is_there()
    {
        Directory.CreateDirectory(_stage["app", "usr", "share", "acrate-test-scrim"]);
        Directory.CreateDirectory(_stage["app", "bin"]);
        File.WriteAllText(_stage["app", "usr", "share", "acrate-test-scrim", "cloth"], "red\n");
        File.WriteAllText(_stage["app", "bin", "show"],
            "#!/bin/sh\ncat /usr/share/acrate-test-scrim/cloth; ls -d /usr/share/doc\n");
        File.SetUnixFileMode(_stage["app", "bin", "show"], (UnixFileMode)0x1ED);
        var trial = new WindowTrial(new Confinement(), _stage["app"], [InsidePath.Parse("usr/share/acrate-test-scrim")], "/");
        var seen = await trial.RunAsync(InsidePath.Parse("bin/show"), [], Time, default);
        (seen.Title, seen.ExitCode).ShouldBe((null, 0));
        seen.Lines.ShouldBe(["red", "/usr/share/doc"]);
        Directory.Exists("/usr/share/acrate-test-scrim").ShouldBeFalse();
    }

    public void Dispose() => _stage.Dispose();

    /// <summary>Writes a card with one script as its program.</summary>
    private void Pack(string id, string script, string more = "")
    {
        Directory.CreateDirectory(_stage["cards", "files"]);
        var file = _stage["cards", "files", id];
        File.WriteAllText(file, $"#!/bin/sh\n{script}\n");
        var digest = Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(File.ReadAllBytes(file)));
        File.WriteAllText(_stage["cards", $"{id}.appcard.toml"], $$"""
            appcard = 1
            id = "{{id}}"
            type = "desktop-application"
            name = "{{id}}"
            summary = "A program of a test"
            {{more}}
            [[place.commands]]
            name = "{{id}}"
            path = "{{id}}"
            [[place.desktop_entries]]
            name = "{{id}}"
            command = "{{id}}"
            arguments = "%F"
            [[releases]]
            version = "1.0"
            date = 2026-01-01
            [[releases.artifacts]]
            platform = "any-linux-any"
            location = "files/{{id}}"
            format = "executable"
            sha256 = "{{digest}}"
            download_size = {{new FileInfo(file).Length}}
            """);
    }
}
