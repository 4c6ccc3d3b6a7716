using AmberCrate.Core.Machine;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Trust;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;
using AmberCrate.Engine.Cataloguing;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Installing;
using AmberCrate.Engine.Publishing;
using AmberCrate.Engine.Runs;
using AmberCrate.Engine.Sessions;
using AmberCrate.Engine.Trust;

namespace AmberCrate.Cli.Tests;

/// <summary>
/// What a test needs before the command that it is about. The operations do it in this process, in the same surroundings as the
/// program: a program start is only for what is tested.
/// </summary>
internal sealed class Preparation(Sandbox sandbox) : IConfirm
{
    private static readonly RunOptions Agreed = new() { IsAgreed = true };

    public bool CanAsk => false;

    /// <summary>Adds a catalogue. A signed one needs its root.</summary>
    public void AddCatalogue(string name, string location, string? trust = null)
    {
        var result = new AddCatalogue(Session($"catalogue add {name} {location}")).RunAsync(
            new AddCatalogueRequest(CatalogueName.Parse(name), location) { Trust = trust }, default).GetAwaiter().GetResult();
        result.Problem.ShouldBeNull();
    }

    /// <summary>Refreshes all catalogues.</summary>
    public void Refresh()
    {
        foreach (var result in new RefreshCatalogues(Session("catalogue refresh")).RunAsync([], default).GetAwaiter().GetResult())
            result.Problem.ShouldBeNull(result.Catalogue.Name.Text);
    }

    /// <summary>Installs apps; all of it must be done.</summary>
    public void Install(params string[] references)
    {
        var result = new Install(Session($"install {string.Join(' ', references)} --yes")).RunAsync(
            [.. references.Select(AppReference.Parse)], new InstallRequest(), Agreed, new RunSignals(default, default))
            .GetAwaiter().GetResult();
        (result.Report?.Failures ?? [])
            .Select(item => $"{item.Item.Id}: {item.Problem?.What} {item.Problem?.Why}").ShouldBeEmpty();
    }

    /// <summary>Makes keys in a folder of the sandbox.</summary>
    public void MakeKeys(string folder) => new KeyRing(sandbox[folder], null).MakeAll(TrustKey.Ecdsa);

    /// <summary>Publishes a folder of cards with the files beside them.</summary>
    public void Publish(string cards, string target, string keys) => new BuildCatalogue(Host()).RunAsync(
        new BuildRequest(sandbox[cards], sandbox[target], WithArtifacts: true, IsFull: false)
        {
            Keys = new KeyRing(sandbox[keys], null),
        },
        default).GetAwaiter().GetResult();

    Plan? IConfirm.Pick(Plan plan, CancellationToken cancel) => throw Unasked();

    IReadOnlySet<string>? IConfirm.Pick(IReadOnlyList<(string Name, string Words)> choices, CancellationToken cancel) =>
        throw Unasked();

    bool IConfirm.MayGoAhead(SurveyedPlan plan, CancellationToken cancel) => throw Unasked();

    bool IConfirm.MayMakeOlder(IReadOnlyList<PlanItem> older, CancellationToken cancel) => throw Unasked();

    bool IConfirm.MayTakeChangedCards(IReadOnlyList<PlanItem> changed, CancellationToken cancel) => throw Unasked();

    bool IConfirm.MayTrust(OfferedRoot offered, CancellationToken cancel) => throw Unasked();

    bool IConfirm.MaySign(CancellationToken cancel) => throw Unasked();

    bool IConfirm.MayReclaim(ReclaimPlan plan, CancellationToken cancel) => throw Unasked();

    private static InvalidOperationException Unasked() => new("a preparation has no user to answer");

    private Session Session(string words) => new(
        Host(), new CallRequest { Root = sandbox[sandbox.Root], CommandLine = $"acrate {words}" }, _ => { }, this);

    private HostEnvironment Host() => new()
    {
        Variable = sandbox.Variable, Clock = TimeProvider.System, Folder = sandbox.Folder, MachineName = Environment.MachineName,
        Person = Environment.UserName,
    };
}
