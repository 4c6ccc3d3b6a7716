using AmberCrate.Core.Problems;
using AmberCrate.Engine.Comparing;
using AmberCrate.Engine.Publishing;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Tests.Sessions;

/// <summary>How operations that are not runs report how far they are.</summary>
public sealed class WorkProgressTests : IDisposable
{
    private const int Exports = 40;
    private readonly OperationStage _stage = new();

    [Fact]
    public async Task Checking_cards_counts_them()
    {
        await new CheckCards(_stage.Session()).RunAsync(new CheckCardsRequest([_stage["guild"]], null, IsReaching: false),
            default);
        var cards = Directory.EnumerateFiles(_stage["guild"], "*.appcard.toml").Count();
        Told().ShouldBe([.. Enumerable.Range(0, cards).Select(at => $"checking cards {at} of {cards}"), "ends"]);
    }

    [Fact]
    public async Task Comparing_counts_the_exports_and_ends_although_it_fails()
    {
        WriteExports();
        await new Compare(_stage.Session()).RunAsync(
            new CompareRequest(_stage["exports", "m1.bundle.toml"]) { With = _stage["exports"] }, default);
        Told().Order(StringComparer.Ordinal).ShouldBe(
            ((string[])[.. Enumerable.Range(1, Exports).Select(at => $"reading exports {at} of {Exports}"), "ends"])
            .Order(StringComparer.Ordinal));
        _stage.Events.Clear();
        await Should.ThrowAsync<ProblemException>(() => new Compare(_stage.Session()).RunAsync(
            new CompareRequest("absent.bundle.toml") { With = _stage["exports"] }, default));
        Told().ShouldBe(["ends"]);
    }

    [Fact]
    public async Task Publishing_counts_what_it_checks_reads_and_copies()
    {
        WriteExports();
        var session = _stage.Session();
        await session.ReportAsync(progress => new BuildCatalogue(session.Host).RunAsync(
            new BuildRequest(_stage["guild"], _stage["site"], WithArtifacts: true, IsFull: false, _stage["exports"])
            {
                Progress = progress,
            }, default));
        Told().Select(line => string.Join(' ', line.Split(' ').TakeWhile(word => !char.IsAsciiDigit(word[0])))).Distinct()
            .ShouldBe(["reading exports", "checking artifacts of cards", "verifying and copying artifacts", "ends"]);
    }

    public void Dispose() => _stage.Dispose();

    private void WriteExports()
    {
        Directory.CreateDirectory(_stage["exports"]);
        for (var at = 1; at <= Exports; at++)
            File.WriteAllText(
                _stage["exports", $"m{at}.bundle.toml"], "bundle = 1\n[[apps]]\nreference = \"scrim-paint@4.2.0\"\n");
    }

    private List<string> Told()
    {
        lock (_stage.Events)
        {
            return
            [
                .. _stage.Events.Select(happened => happened switch
                {
                    OperationEvent.Working working => $"{working.What} {working.Done} of {working.Count}",
                    OperationEvent.WorkEnds => "ends",
                    _ => "",
                }).Where(line => line.Length > 0),
            ];
        }
    }
}
