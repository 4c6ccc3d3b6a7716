using AmberCrate.Core.Due;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Versions;
using AmberCrate.Engine.Cataloguing;
using AmberCrate.Engine.Due;
using AmberCrate.Engine.Installing;
using AmberCrate.Engine.Listing;
using AmberCrate.Engine.Runs;
using AmberCrate.Engine.Sessions;
using AmberCrate.Engine.Upgrading;

namespace AmberCrate.Engine.Tests.Installers;

/// <summary>An app that updates itself reports its version. If it does anything else, the record counts.</summary>
public sealed class VersionReadingTests : IDisposable
{
    private static readonly RunOptions Agreed = new() { IsAgreed = true };
    private readonly OperationStage _stage = new();

    public VersionReadingTests() => Assert.SkipUnless(
        File.Exists("/usr/bin/bwrap"), "a command is asked for its version only where it can be confined");

    public void Dispose() => _stage.Dispose();

    [Theory]
    [InlineData("command = \"cue-ledger\", arguments = [\"--version\"]", "echo 'Cue Ledger 1.6.0'", "1.6.0", "")]
    [InlineData("command = \"cue-ledger\", arguments = [\"--version\"]", "echo 'Cue Ledger 9.1, nightly'", "9.1", "")]
    [InlineData("command = \"cue-ledger\"", "echo \"called with [$*]\"; echo 1.5.1", "1.5.1", "")]
    [InlineData("command = \"cue-ledger\"", "echo nonsense", "1.5.0", "there is no version in what it says")]
    [InlineData("command = \"cue-ledger\"", "true", "1.5.0", "there is no version in what it says")]
    [InlineData("command = \"cue-ledger\"", "exit 3", "1.5.0", "its command ended with 3")]
    [InlineData("command = \"cue-ledger\"", "sleep 60", "1.5.0", "it had not ended after 5 seconds")]
    [InlineData("command = \"cue-ledger\"", "head -c 10000000 /dev/zero | tr '\\0' x; echo", "1.5.0",
        "there is no version in what it says")]
    [InlineData("command = \"cue-ledger\"", "echo 2.0 > \"$HOME/mine\"; cat \"$HOME/mine\"", "2.0", "")]
    [InlineData("file = \"VERSION\"", "", "1.5.0", "it cannot be read")]
    [InlineData("file = \"bin/cue-ledger\"", "# version 1.7.2", "1.7.2", "")]
    public async Task The_version_that_it_tells_counts_and_is_not_taken_for_an_upgrade(
        string source, string script, string version, string fault)
    {
        await InstallAsync(source);
        File.WriteAllText(
            _stage["root", ".local", "share", "amber-crate", "shelf", "cue-ledger", "1.5.0+any", "bin", "cue-ledger"],
            $"#!/bin/sh\n{script}\n");

        var listed = (await new ListApps(_stage.Session()).RunAsync(new ListRequest(), default)).Entries.ShouldHaveSingleItem();
        listed.Entry.Version.Text.ShouldBe(version);
        listed.Marks.ShouldContain(AppMark.UpdatesItself);
        if (fault.Length == 0) _stage.Notes.ShouldBeEmpty();
        else _stage.Notes.ShouldHaveSingleItem().ShouldStartWith("cue-ledger does not report its version: ");
        if (fault.Length > 0 && !fault.StartsWith("it cannot", StringComparison.Ordinal))
            _stage.Notes[0].ShouldBe($"cue-ledger does not report its version: {fault}; the record says 1.5.0");
        Directory.EnumerateFileSystemEntries(_stage["root", ".cache", "amber-crate"], "version-*").ShouldBeEmpty();
    }

    /// <summary>Only the user moves such an app: it may be newer than its catalogue at any time.</summary>
    [Theory]
    [InlineData("echo 1.5.0", DueState.UpdatesItself, true)]
    [InlineData("echo 1.6.0", DueState.Current, false)]
    [InlineData("echo 9.1", DueState.Current, false)]
    public async Task It_is_upgraded_by_name_only_and_never_made_older(string script, DueState state, bool isUpgraded)
    {
        await InstallAsync("command = \"cue-ledger\"");
        File.WriteAllText(
            _stage["root", ".local", "share", "amber-crate", "shelf", "cue-ledger", "1.5.0+any", "bin", "cue-ledger"],
            $"#!/bin/sh\n{script}\n");
        _stage.PublishLater();
        Change("cue-ledger", "keywords =", Source("command = \"cue-ledger\""));
        await new RefreshCatalogues(_stage.Session()).RunAsync([], default);

        (await new ListDue(_stage.Session()).RunAsync([], null, default)).Entries.ShouldHaveSingleItem()
            .Entry.State.ShouldBe(state);
        (await UpgradeAsync()).Plan.Changes.ShouldBeFalse();
        (await UpgradeAsync("cue-ledger")).Plan.Changes.ShouldBe(isUpgraded);
    }

    private Task<RunResult> UpgradeAsync(params string[] names) =>
        new Upgrade(_stage.Session()).RunAsync(names, new UpgradeRequest(), Agreed, new RunSignals(default, default));

    private async Task InstallAsync(string source)
    {
        Change("cue-ledger", "keywords =", Source(source));
        await _stage.AddGuildAsync();
        var result = await new Install(_stage.Session()).RunAsync(
            [AppReference.Parse("cue-ledger")], new InstallRequest(), Agreed, new RunSignals(default, default));
        result.Report!.Items.ShouldHaveSingleItem().Outcome.ShouldBe(Core.Runs.Outcome.Done);
        _stage.Notes.Clear();
    }

    private static string Source(string source) => $"self_updating = true\nversion_source = {{ {source} }}\nkeywords =";

    private void Change(string app, string text, string instead)
    {
        var card = _stage["guild", $"{app}.appcard.toml"];
        File.WriteAllText(card, File.ReadAllText(card).Replace(text, instead, StringComparison.Ordinal));
    }
}
