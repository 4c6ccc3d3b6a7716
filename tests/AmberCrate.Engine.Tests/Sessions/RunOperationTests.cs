using AmberCrate.Core.Machine;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Runs;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;
using AmberCrate.Engine.Cataloguing;
using AmberCrate.Engine.Equipping;
using AmberCrate.Engine.Installing;
using AmberCrate.Engine.Removing;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Tests.Sessions;

/// <summary>Operations run in this process, with time, network, variables and answers handed in.</summary>
public sealed class RunOperationTests : IDisposable
{
    private static readonly RunOptions Agreed = new() { IsAgreed = true };
    private readonly OperationStage _stage = new();

    [Fact]
    public async Task The_person_is_asked_once_and_after_the_plan_was_told()
    {
        await _stage.AddGuildAsync();
        _stage.Answer = false;
        var declined = await InstallAsync(new RunOptions(), "cue-ledger");
        (declined.End, _stage.Plans.Count).ShouldBe((RunEnd.CalledOff, 1));
        _stage.Answer = true;
        (await InstallAsync(new RunOptions(), "cue-ledger")).Report!.Items.ShouldHaveSingleItem().Outcome.ShouldBe(Outcome.Done);
        _stage.Answer = null;
        var nobody = await Should.ThrowAsync<ProblemException>(() => InstallAsync(new RunOptions(), "gantry-plot"));
        (nobody.Problem.Code, nobody.Problem.What).ShouldBe(
            (ProblemCode.BadCommandLine, "cannot ask whether to go ahead: there is no terminal"));
    }

    [Fact]
    public async Task A_plan_tells_what_is_placed_and_which_programs_are_started()
    {
        await _stage.AddGuildAsync();
        var plan = (await InstallAsync(new RunOptions { IsDryRun = true }, "gantry-plot")).Plan;
        plan.Places.Select(place => $"{place.App} {place.Kind}")
            .ShouldBe(["gantry-plot Command", "gantry-plot DesktopEntry", "gantry-plot Icon"]);
        plan.Places[0].Path.ShouldBe(_stage["root", ".local", "bin", "gantry-plot"]);
        var started = (await InstallAsync(new RunOptions { IsDryRun = true }, "thundersheet")).Plan.Starts;
        started.Select(start => $"{start.Reason} {start.App}").ShouldContain("Check thundersheet");
        plan.Space.ShouldNotBeEmpty();
        PlanDigest.Compute(plan).ShouldBe(PlanDigest.Compute((await InstallAsync(new RunOptions { IsDryRun = true },
            "gantry-plot")).Plan));
    }

    [Fact]
    public async Task Each_item_of_a_run_keeps_the_whole_state_before_and_after_it()
    {
        await _stage.AddGuildAsync();
        await InstallAsync(Agreed, "scrim-paint@4.1.x");
        await InstallAsync(Agreed, "scrim-paint@4.2.x");
        await new Uninstall(_stage.Session()).RunAsync(["scrim-paint"], new UninstallRequest(), false, Agreed, default);
        using var station = new RootOpener(_stage.Session()).ToRead();
        Enumerable.Range(1, 3)
            .SelectMany(run => station.Records.ItemsOf(run))
            .Select(item => $"{Shown(item.Before)} > {Shown(item.After)}")
            .ShouldBe([" > 4.1.2 @4.1.x 3", "4.1.2 @4.1.x 3 > 4.2.1 @4.2.x 3", "4.2.1 @4.2.x 3 > "]);

        static string Shown(InstalledApp? app) => app is null ? "" : $"{app.Version} @{app.Follows} {app.Placed.Count}";
    }

    [Fact]
    public async Task Catalogues_of_a_bundle_are_added_within_the_run_and_are_on_its_record()
    {
        File.WriteAllText(
            _stage["a.bundle.toml"],
            "bundle = 1\n[[catalogues]]\nname = \"guild\"\nlocation = \"guild\"\n[[apps]]\nreference = \"guild:cue-ledger\"\n");
        var strange = await Should.ThrowAsync<ProblemException>(
            () => new Equip(_stage.Session()).RunAsync(new EquipRequest(_stage["a.bundle.toml"]), Agreed, default));
        (strange.Problem.Code, strange.Problem.What).ShouldBe(
            (ProblemCode.Refused, "the bundle adds the catalogue guild, an unsigned folder of cards"));
        var planned = await EquipAsync(new RunOptions { IsDryRun = true });
        planned.Plan.Items.ShouldHaveSingleItem().IsUnsigned.ShouldBeTrue();
        planned.Plan.Solved.AddedCatalogues.ShouldHaveSingleItem().Location.ShouldBe(_stage["guild"]);
        new ListCatalogues(_stage.Session()).Run().Entries.ShouldBeEmpty("only a plan was wanted");
        _stage.Answer = false;
        (await EquipAsync(new RunOptions())).End.ShouldBe(RunEnd.CalledOff);
        new ListCatalogues(_stage.Session()).Run().Entries.ShouldBeEmpty("the person said no");
        var number = (await EquipAsync(Agreed)).Report!.Number.ShouldNotBeNull();
        using var station = new RootOpener(_stage.Session()).ToRead();
        station.Records.CataloguesOf(number).ShouldHaveSingleItem().Catalogue.Name.Text.ShouldBe("guild");
        station.Records.Catalogues().ShouldHaveSingleItem().Location.ShouldBe(_stage["guild"]);
    }

    [Fact]
    public async Task What_is_in_the_way_of_one_app_is_told_in_the_plan_and_does_not_keep_the_others()
    {
        await _stage.AddGuildAsync();
        File.WriteAllText(
            _stage["a.bundle.toml"],
            "bundle = 1\n[[apps]]\nreference = \"guild:cue-ledger\"\n[[apps]]\nreference = \"guild:gantry-plot\"\n");
        var foreign = _stage["root", ".local", "bin", "cue-ledger"];
        Directory.CreateDirectory(Path.GetDirectoryName(foreign)!);
        File.WriteAllText(foreign, "somebody's");
        var result = await EquipAsync(Agreed);
        result.Plan.Items.Select(item => $"{item.Id} {item.Action} {item.Obstacle?.What}")
            .ShouldBe([$"cue-ledger Cannot {foreign} is in the way of cue-ledger", "gantry-plot Install "]);
        result.Report!.Items.Select(item => item.Outcome).ShouldBe([Outcome.Failed, Outcome.Done]);
        File.ReadAllText(foreign).ShouldBe("somebody's");
        var alone = await Should.ThrowAsync<ProblemException>(() => EquipAsync(Agreed));
        (alone.Problem.Code, alone.Problem.What).ShouldBe((ProblemCode.Refused, $"{foreign} is in the way of cue-ledger"));
    }

    [Fact]
    public async Task What_the_system_lacks_is_told_before_a_byte_is_fetched_and_does_not_keep_the_others()
    {
        Require("cue-ledger", "{ kind = \"library\", name = \"libgauze.so.2\", deb = [\"libgauze2\"] }");
        Require("gantry-plot", "");
        foreach (var file in Directory.EnumerateFiles(_stage["guild"], "cue-ledger*.tar*", SearchOption.AllDirectories))
            File.Delete(file);
        await _stage.AddGuildAsync();

        // Apps that are named are installed all or none. What the system lacks is the exception.
        var result = await InstallAsync(Agreed, "cue-ledger", "gantry-plot");
        result.Plan.Items.Select(item => $"{item.Id} {item.Action} {item.Note}").ShouldBe(
            ["cue-ledger Cannot needs libgauze.so.2, which this system lacks", "gantry-plot Install "]);
        result.Report!.Items.Select(item => item.Outcome).ShouldBe([Outcome.Failed, Outcome.Done]);
        result.Report.Items[0].Problem!.Code.ShouldBe(ProblemCode.SystemLacks);
        var fetched = await new Prefetch(_stage.Session()).RunAsync([AppReference.Parse("cue-ledger")], Agreed, default);
        fetched.Report!.Items.ShouldHaveSingleItem().Problem!.Code.ShouldBe(ProblemCode.SystemLacks);
        var alone = await Should.ThrowAsync<ProblemException>(() => InstallAsync(Agreed, "cue-ledger"));
        (alone.Problem.Code, alone.Problem.What, alone.Problem.Why).ShouldBe((
            ProblemCode.SystemLacks, "cue-ledger 1.5.0 needs libgauze.so.2, which this system lacks",
            "nothing has been downloaded or changed"));
    }

    [Fact]
    public async Task What_the_system_has_does_not_matter_to_what_needs_nothing_new()
    {
        await _stage.AddGuildAsync();
        await InstallAsync(Agreed, "cue-ledger@1.4.x");
        Require("cue-ledger", "{ kind = \"program\", name = \"gauze-view\" }");
        await new RefreshCatalogues(_stage.Session()).RunAsync([], default);
        var held = await Should.ThrowAsync<ProblemException>(() => InstallAsync(Agreed, "cue-ledger@1.5.x"));
        held.Problem.What.ShouldBe("cue-ledger 1.5.0 needs the program gauze-view, which this system lacks");
        var removed = await new Uninstall(_stage.Session()).RunAsync(
            ["cue-ledger"], new UninstallRequest(), false, Agreed, default);
        removed.Report!.Items.ShouldHaveSingleItem().Outcome.ShouldBe(Outcome.Done);
    }

    [Fact]
    public async Task A_download_that_cannot_fit_is_refused_before_a_byte_is_fetched_also_where_the_card_is_silent()
    {
        var card = _stage["guild", "flyrope-terminal.appcard.toml"];
        File.WriteAllLines(card, File.ReadAllLines(card)
            .Where(line => !line.StartsWith("installed_size", StringComparison.Ordinal))
            .Select(line => line.StartsWith("download_size", StringComparison.Ordinal) ? $"download_size = {1L << 49}" : line));
        await _stage.AddGuildAsync();
        var refused = await Should.ThrowAsync<ProblemException>(() => InstallAsync(Agreed, "flyrope-terminal"));
        (refused.Problem.Code, refused.Problem.What).ShouldBe((ProblemCode.StateNeedsAttention, "there is not enough room on /"));
        Directory.Exists(_stage["home", ".cache", "amber-crate", "downloads"]).ShouldBeFalse();
    }

    [Fact]
    public async Task All_users_apps_of_an_image_are_judged_by_the_packages_and_libraries_of_the_image()
    {
        await new AddCatalogue(_stage.Session(InstallScope.AllUsers)).RunAsync(
            new AddCatalogueRequest(CatalogueName.Parse("guild"), _stage["guild"]), default);
        var lacking = await InstallAsync(Agreed, InstallScope.AllUsers, "cue-ledger");
        lacking.Report!.Items.ShouldHaveSingleItem().Problem!.Why.ShouldBe(
            "bin/cue-ledger is a script for /bin/sh, which this machine lacks");
        Directory.CreateDirectory(_stage["root", "bin"]);
        File.WriteAllText(_stage["root", "bin", "sh"], "");
        Directory.CreateDirectory(_stage["root", "usr", "local", "bin"]);
        Directory.CreateDirectory(_stage["root", "var", "lib", "dpkg", "info"]);
        File.WriteAllText(_stage["root", "usr", "local", "bin", "cue-ledger"], "");
        File.WriteAllText(_stage["root", "var", "lib", "dpkg", "info", "prompt-box.list"], "/usr/local/bin/cue-ledger\n");
        var blocked = await Should.ThrowAsync<ProblemException>(() => InstallAsync(Agreed, InstallScope.AllUsers, "cue-ledger"));
        blocked.Problem.Why.ShouldBe("it belongs to the system's package prompt-box; nothing has been changed");
        File.Delete(_stage["root", "usr", "local", "bin", "cue-ledger"]);
        (await InstallAsync(Agreed, InstallScope.AllUsers, "cue-ledger")).Report!.Items.ShouldHaveSingleItem().Outcome.ShouldBe(
            Outcome.Done);
    }

    public void Dispose() => _stage.Dispose();

    private void Require(string app, string requirement)
    {
        var card = _stage["guild", $"{app}.appcard.toml"];
        File.WriteAllLines(card, [$"system = [{requirement}]", .. File.ReadAllLines(card)]);
    }

    private Task<RunResult> EquipAsync(RunOptions options) => new Equip(_stage.Session()).RunAsync(
        new EquipRequest(_stage["a.bundle.toml"]), options with { AllowsUnsigned = true }, default);

    private Task<RunResult> InstallAsync(RunOptions options, params string[] references) =>
        InstallAsync(options, InstallScope.ThisUser, references);

    private Task<RunResult> InstallAsync(RunOptions options, InstallScope scope, params string[] references) =>
        new Install(_stage.Session(scope)).RunAsync([.. references.Select(AppReference.Parse)], new InstallRequest(), options,
            default);
}
