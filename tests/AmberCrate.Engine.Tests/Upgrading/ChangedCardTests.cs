using AmberCrate.Core.Versions;
using AmberCrate.Engine.Cataloguing;
using AmberCrate.Engine.Due;
using AmberCrate.Engine.Installing;
using AmberCrate.Engine.PastRuns;
using AmberCrate.Engine.Runs;
using AmberCrate.Engine.Sessions;
using AmberCrate.Engine.Upgrading;

namespace AmberCrate.Engine.Tests.Upgrading;

/// <summary>Apps whose cards have changed since they were installed.</summary>
public sealed class ChangedCardTests : IDisposable
{
    private static readonly RunOptions Agreed = new() { IsAgreed = true };
    private static readonly RunSignals Signals = new(default, default);
    private readonly OperationStage _stage = new();

    [Fact]
    public async Task An_upgrade_asks_once_more_and_shows_what_has_changed()
    {
        await PublishChangedAsync();
        (_stage.Answer, _stage.AnswerToChanged) = (true, false);
        (await UpgradeAsync(new RunOptions())).End.ShouldBe(RunEnd.CalledOff);
        _stage.AskedAbout.ShouldBe(["scrim-paint"]);
        _stage.AnswerToChanged = true;
        var result = await UpgradeAsync(new RunOptions());
        result.End.ShouldBe(RunEnd.Ran);
        result.Plan.Items.Single(item => item.Id == "scrim-paint").Notes.Where(note => note.Code == "card-changed")
            .Select(note => note.Text.ToString()).ShouldBe(
                ["licence is now LicenseRef-proprietary (was GPL-3.0-or-later)", "now needs a sign-in"]);
        _stage.AskedAbout.Clear();
        (await UpgradeAsync(new RunOptions())).Plan.Items.ShouldAllBe(item => item.CardChanges.Count == 0);
        _stage.AskedAbout.ShouldBeEmpty();
    }

    [Fact]
    public async Task Agreeing_beforehand_is_enough_and_what_goes_back_is_not_asked_about()
    {
        await PublishChangedAsync();
        var result = await UpgradeAsync(Agreed);
        result.Plan.Items.Single(item => item.Id == "scrim-paint").CardChanges.Count.ShouldBe(2);
        _stage.Answer = true;
        var back = await new Undo(_stage.Session()).RunAsync(null, new RunOptions(), Signals);
        back.Plan.Items.ShouldAllBe(item => item.CardChanges.Count == 0);
        _stage.AskedAbout.ShouldBeEmpty();
    }

    [Fact]
    public async Task The_list_of_what_is_due_names_the_changes()
    {
        await PublishChangedAsync();
        var due = await new ListDue(_stage.Session()).RunAsync([], null, default);
        due.Entries.Where(item => item.Entry.CardChanges.Count > 0).Select(item => item.Entry.App.Id.Text)
            .ShouldBe(["scrim-paint"]);
    }

    public void Dispose() => _stage.Dispose();

    /// <summary>Installs two apps; then newer releases come, and one of the cards states another licence and a sign-in.</summary>
    private async Task PublishChangedAsync()
    {
        await _stage.AddGuildAsync();
        await new Install(_stage.Session()).RunAsync(
            [AppReference.Parse("scrim-paint"), AppReference.Parse("cue-ledger")], new InstallRequest(), Agreed, Signals);
        _stage.PublishLater();
        var file = _stage["guild", "scrim-paint.appcard.toml"];
        File.WriteAllText(file, File.ReadAllText(file)
            .Replace("GPL-3.0-or-later", "LicenseRef-proprietary", StringComparison.Ordinal)
            .Replace("sign_in = \"none\"", "sign_in = \"required\"", StringComparison.Ordinal));
        await new RefreshCatalogues(_stage.Session()).RunAsync([], default);
    }

    private Task<RunResult> UpgradeAsync(RunOptions options) =>
        new Upgrade(_stage.Session()).RunAsync([], new UpgradeRequest(), options, Signals);
}
