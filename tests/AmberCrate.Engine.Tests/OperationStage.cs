using AmberCrate.Core.Plans;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Cataloguing;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Runs;
using AmberCrate.Engine.Sessions;
using AmberCrate.Playhouse;

namespace AmberCrate.Engine.Tests;

/// <summary>
/// A folder with the playhouse's catalogues, in which operations run in this process: time, network, variables and answers are
/// the test's.
/// </summary>
public sealed class OperationStage : IDisposable, IConfirm
{
    private readonly TemporaryFolder _folder = new();

    public OperationStage(bool withGuild = true)
    {
        if (withGuild) World.Shipped.Write("guild", _folder["guild"], withLater: false);
    }

    public string this[params string[] parts] => _folder[parts];

    public Dictionary<string, string> Variables { get; } = new() { ["PATH"] = "" };

    public List<string> Notes { get; } = [];

    public List<Plan> Plans { get; } = [];

    /// <summary>All that operations reported. Lock it where several threads report.</summary>
    public List<OperationEvent> Events { get; } = [];

    /// <summary>What the person answers; null where there is nobody.</summary>
    public bool? Answer { get; set; }

    /// <summary>What the person answers to the question whether apps may become older.</summary>
    public bool AnswerToOlder { get; set; } = true;

    /// <summary>The answer to the question whether to go on with apps whose cards have changed.</summary>
    public bool AnswerToChanged { get; set; } = true;

    /// <summary>The apps that this question was about.</summary>
    public List<string> AskedAbout { get; } = [];

    public TimeProvider Clock { get; set; } = TimeProvider.System;

    public Action<RunEvent> WhenHappens { get; set; } = _ => { };

    public bool CanAsk => Answer is not null;

    /// <summary>The root that sessions work on.</summary>
    public string Root { get; set; } = "root";

    /// <summary>The name of the machine.</summary>
    public string Machine { get; set; } = "paintframe-01";

    public Session Session(InstallScope scope = InstallScope.ThisUser, bool isOffline = false)
    {
        var host = new HostEnvironment
        {
            Variable = name => name == "HOME" ? _folder["home"] : Variables.GetValueOrDefault(name), Clock = Clock,
            Folder = _folder.Path, MachineName = Machine,
        };
        return new Session(
            host,
            new CallRequest { Root = Root, IsRootGiven = true, Scope = scope, IsOffline = isOffline, CommandLine = "a test" },
            Watch, this);
    }

    public Task AddGuildAsync() =>
        new AddCatalogue(Session()).RunAsync(new AddCatalogueRequest(CatalogueName.Parse("guild"), _folder["guild"]), default);

    public void PublishLater() => World.Shipped.Write("guild", _folder["guild"], withLater: true);

    public Plan? Pick(Plan plan, CancellationToken cancel) => plan;

    public IReadOnlySet<string>? Pick(IReadOnlyList<(string Name, string Words)> choices, CancellationToken cancel) =>
        choices.Select(choice => choice.Name).ToHashSet(StringComparer.Ordinal);

    public bool MayGoAhead(SurveyedPlan plan, CancellationToken cancel) => Answer!.Value;

    public bool MayMakeOlder(IReadOnlyList<PlanItem> older, CancellationToken cancel) => AnswerToOlder;

    public bool MayTakeChangedCards(IReadOnlyList<PlanItem> changed, CancellationToken cancel)
    {
        AskedAbout.AddRange(changed.Select(item => item.Id));
        return AnswerToChanged;
    }

    public bool MayTrust(OfferedRoot offered, CancellationToken cancel) => Answer!.Value;

    public bool MaySign(CancellationToken cancel) => Answer!.Value;

    public bool MayReclaim(ReclaimPlan plan, CancellationToken cancel) => Answer!.Value;

    public void Dispose() => _folder.Dispose();

    private void Watch(OperationEvent happened)
    {
        lock (Events) Events.Add(happened);
        switch (happened)
        {
            case OperationEvent.Noticed notice:
                Notes.Add(notice.Text.ToString());
                break;
            case OperationEvent.Planned planned:
                Plans.Add(planned.Plan.Solved);
                break;
            case OperationEvent.Happened { Event: var step }:
                WhenHappens(step);
                break;
        }
    }
}
