using AmberCrate.Core.Drafting;
using AmberCrate.Core.Placements;
using AmberCrate.Core.Requirements;
using AmberCrate.Engine.Drafting;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Installers;
using AmberCrate.Engine.Observing;
using AmberCrate.Engine.Placing;
using AmberCrate.Engine.Publishing;

namespace AmberCrate.Engine.Tests.Drafting;

/// <summary>An app that needs a library of another app, built by the real compiler and packed by dpkg-deb.</summary>
public sealed class BorrowingTests : IDisposable
{
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(30);

    private readonly OperationStage _stage = new();

    public BorrowingTests()
    {
        Assert.SkipWhen(ProgramSearch.Trusted("gcc") is null, "there is no C compiler");
        Directory.CreateDirectory(_stage["cards", "files"]);
        Pack("gauze-view", "Section: misc", """
            mkdir -p p/usr/lib/gauze
            echo 'int gauze(){return 41;}' > l.c
            gcc -shared -fPIC -Wl,-soname,libgauze.so.2 -o p/usr/lib/gauze/libgauze.so.2 l.c
            """);
        Pack("hemmer", "Depends: gauze-view, libc6", "");
    }

    public void Dispose() => _stage.Dispose();

    [Fact]
    public async Task A_draft_borrows_from_the_app_that_has_the_library_and_the_program_starts()
    {
        var drafts = (await DraftAsync("gauze-view", "hemmer")).Cards.Select(card => card.Draft).ToList();
        var (lender, borrower) = (Find(drafts, "gauze-view"), Find(drafts, "hemmer"));
        lender.Placement.Folders.ShouldHaveSingleItem().Paths.ShouldHaveSingleItem().Text.ShouldBe("usr/lib/gauze");
        (lender.Needs.Count, lender.Placement.Borrows.Count).ShouldBe((0, 0));
        borrower.Needs.ShouldBe([lender.Id]);
        borrower.Placement.Borrows.ShouldBe([lender.Id]);
        borrower.Release.Requirements!.Select(one => one.Name).ShouldBe(["libc.so.6"]);
        borrower.Questions.ShouldContain("It finds libgauze.so.2 in the app gauze-view, which it needs: is that right?");
        (await FindingsAsync()).ShouldBeEmpty();

        Unpack("gauze-view", lender.Placement);
        Unpack("hemmer", borrower.Placement);
        Directory.CreateDirectory(_stage["own", "front"]);
        foreach (var app in new[] { "gauze-view", "hemmer" })
            File.CreateSymbolicLink(_stage["own", "front", app], $"../shelf/{app}/1.0");
        var start = _stage["own", "front", "hemmer", ".launch", "hemmer"];
        SystemProgram.Ask(start, [], Patience).Code.ShouldBe(0);
        new ProgramCheck("/", "/usr/bin", new SystemPackages("/")).Faults("hemmer", start).ShouldBeEmpty();
        LauncherFile.FindLenders(_stage["own", "front", "hemmer"]).ShouldBe(
            [(_stage["own", "front", "gauze-view"], _stage["own", "shelf", "gauze-view", "1.0"])]);

        // A link that leads out of the shelf is not followed.
        File.Delete(_stage["own", "front", "gauze-view"]);
        File.CreateSymbolicLink(_stage["own", "front", "gauze-view"], _stage["own", "shelf", "hemmer", "1.0"]);
        LauncherFile.FindLenders(_stage["own", "front", "hemmer"]).ShouldBeEmpty();

        // Without the other app it says what it lacks, and neither the check nor the launcher does worse.
        File.Delete(_stage["own", "front", "gauze-view"]);
        SystemProgram.Ask(start, [], Patience).Code.ShouldBe(127);
        new ProgramCheck("/", "/usr/bin", new SystemPackages("/")).Faults("hemmer", start).ShouldHaveSingleItem()
            .ShouldStartWith("hemmer needs libgauze.so.2, which this machine lacks");
    }

    [Fact]
    public async Task The_check_of_cards_names_the_app_that_lends_a_library()
    {
        await DraftAsync("gauze-view", "hemmer");
        var card = _stage["cards", "hemmer.appcard.toml"];
        var text = File.ReadAllText(card);
        File.WriteAllText(card, text.Replace("needs = [\"gauze-view\"]\n", "").Replace("borrows = [\"gauze-view\"]\n", ""));
        (await FindingsAsync()).ShouldContain(
            "libgauze.so.2 is in the app gauze-view of this folder: does this app need it, as needs = [\"gauze-view\"] and "
                + "place.borrows = [\"gauze-view\"]?");
        File.WriteAllText(card, text.Replace("needs = [\"gauze-view\"]\n", ""));
        (await FindingsAsync()).ShouldContain("expected apps of needs, found \"gauze-view\"");
        File.WriteAllText(card, text.Replace("borrows = [\"gauze-view\"]", "borrows = [\"gauze-view\", \"gauze-view\"]"));
        (await FindingsAsync()).ShouldContain("expected each app once, found \"gauze-view\" again");
        File.WriteAllText(card, text);
        File.Delete(_stage["cards", "gauze-view.appcard.toml"]);
        (await FindingsAsync()).ShouldContain(
            "what it borrows was not looked at: no release of gauze-view, whose files it borrows, is in this folder for this "
                + "machine");
    }

    [Fact]
    public async Task A_draft_asks_about_a_card_that_was_there_before()
    {
        await DraftAsync("gauze-view");
        (await DraftAsync("hemmer")).Cards.ShouldHaveSingleItem().Draft.Questions.ShouldContain(
            "It depends on gauze-view, which is the app gauze-view: if it needs that app, add needs = [\"gauze-view\"].");
    }

    [Fact]
    public async Task What_is_borrowed_is_seen_by_a_confined_trial_too()
    {
        var obstacle = WindowTrial.Obstacle(new Confinement());
        Assert.SkipWhen(obstacle is not null, obstacle ?? "");
        await DraftAsync("gauze-view", "hemmer");
        var result = await CheckAsync(TimeSpan.FromSeconds(2));
        result.Trials.SelectMany(trial => trial.Starts).Select(start => start.Words)
            .ShouldBe(["ended with 0", "ended with 0"]);
    }

    private static CardDraft Find(IEnumerable<CardDraft> drafts, string id) => drafts.Single(draft => draft.Id.Text == id);

    private Task<DraftsResult> DraftAsync(params string[] apps) => new DraftCard(_stage.Session()).RunAsync(
        [.. apps.Select(app => _stage["cards", "files", $"{app}_1.0_amd64.deb"])], _stage["cards"], default);

    private async Task<IReadOnlyList<string>> FindingsAsync() =>
        [.. (await CheckAsync(null)).Findings.Select(one => one.Message)];

    private Task<CardsChecked> CheckAsync(TimeSpan? start) => new CheckCards(_stage.Session()).RunAsync(
        new CheckCardsRequest([_stage["cards"]], null, IsReaching: false) { StartTime = start }, default);

    private void Unpack(string app, Placement placement)
    {
        var entry = _stage["own", "shelf", app, "1.0"];
        Directory.CreateDirectory(entry);
        Shell($"dpkg-deb -x cards/files/{app}_1.0_amd64.deb own/shelf/{app}/1.0");
        OwnFiles.Add(entry, placement);
    }

    private void Pack(string app, string control, string library) => Shell($"""
        mkdir -p p/usr/bin p/usr/share/applications p/DEBIAN
        {library}
        echo 'int gauze();int main()'"{'{'}return gauze()!=41;{'}'}" > v.c
        lib=$(ls p/usr/lib/gauze/libgauze.so.2 2>/dev/null || echo kept/libgauze.so.2)
        gcc -o p/usr/bin/{app} v.c $lib
        mkdir -p kept; cp $lib kept/ 2>/dev/null || true
        cat > p/usr/share/applications/{app}.desktop <<'END'
        [Desktop Entry]
        Type=Application
        Name={app}
        Comment=Cloth
        Exec={app}
        END
        cat > p/DEBIAN/control <<'END'
        Package: {app}
        Version: 1.0
        Architecture: amd64
        {control}
        Maintainer: A <a@example>
        Description: C
        END
        dpkg-deb --root-owner-group -b p cards/files/{app}_1.0_amd64.deb
        rm -r p
        """);

    private void Shell(string commands)
    {
        var answer = SystemProgram.Ask("/bin/sh", ["-ec", $"cd '{_stage["cards"]}/..'\n{commands}"], Patience);
        answer.Code.ShouldBe(0, answer.Errors);
    }
}
