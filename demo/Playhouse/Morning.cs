using System.Text.Json;

namespace AmberCrate.Playhouse;

/// <summary>A technician's morning at Tallow Lane Playhouse, from two empty machines to two equal ones.</summary>
public sealed class Morning(string folder, string acrate)
{
    private readonly Stage _stage = new(folder, acrate);

    /// <summary>Plays the morning; false where something was not as it should be.</summary>
    /// <param name="shell">Whether to leave it standing and open a shell in it.</param>
    public async Task<bool> PlayAsync(bool shell)
    {
        var (house, guildCards, guildSite) =
            (Path.Combine(folder, "house"), Path.Combine(folder, "guild-cards"), Path.Combine(folder, "guild-site"));
        World.Shipped.Write("house", house, withLater: true);
        World.Shipped.Write("guild", guildCards, withLater: false);
        Directory.CreateDirectory(guildSite);
        await using var guild = await StaticServer.StartAsync(guildSite);

        AddCatalogues(guild.Address);
        Find();
        PutOn();
        KeepCurrent(guildCards);
        GoBack();
        CarryOver();
        TakeOff();
        FromAStick();
        Report();
        if (shell) await OpenShellAsync(guild.Address);
        return _stage.Faults.Count == 0;
    }

    private void AddCatalogues(Uri guild)
    {
        Stage.Say("The guild's maintainer checks the guild's cards, signs and publishes them; a web server serves the folder.");
        _stage.Machine = "guild-maintainer";
        _stage.Run("acrate catalogue keys new guild-keys", 0, "root", "targets", "online");
        _stage.Run(
            "acrate catalogue build guild-cards guild-site --with-artifacts --keys guild-keys", 0, "Published 10 apps", "signed");
        _stage.Machine = "paintframe-01";
        Stage.Say("A new workstation in the paint frame: where do its apps come from?");
        _stage.Run("acrate catalogue add house house", 0, "Added house: Tallow Lane Playhouse, 5 apps");
        var root = Path.Combine(folder, "guild-site", "root.json");
        var digest = Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(File.ReadAllBytes(root)));
        Stage.Say("The guild is signed. Its maintainer has told the root's digest over the telephone.");
        _stage.Run($"acrate catalogue add guild {guild}", 4, "you have not said which root to trust", digest);
        _stage.Run($"acrate catalogue add guild {guild} --trust {digest}", 0, "Added guild: Stagecraft guild, 10 apps");
        _stage.Run("acrate catalogue list", 0, "just now", "signed until", guild.ToString().TrimEnd('/'));
        _stage.Run("acrate catalogue about guild", 0, "timestamp", "1 of 1");
        Attack();
    }

    /// <summary>Somebody breaks into the guild's web server, twice.</summary>
    private void Attack()
    {
        var site = Path.Combine(folder, "guild-site");
        var (before, now) = (Path.Combine(folder, "before"), Path.Combine(folder, "now"));
        CopyMetadata(site, before);
        Stage.Say("Somebody gets into the web server and changes one byte of the snapshot.");
        _stage.Machine = "guild-maintainer";
        var bundles = Directory.CreateDirectory(Path.Combine(folder, "guild-cards", "bundles")).FullName;
        File.WriteAllText(
            Path.Combine(bundles, "frame.bundle.toml"), "bundle = 1\ntitle = \"Frame\"\n[[apps]]\nreference = \"cue-ledger\"\n");
        _stage.Run("acrate catalogue build guild-cards guild-site --with-artifacts --keys guild-keys", 0, "Published");
        CopyMetadata(site, now);
        var snapshot = Path.Combine(site, "2.snapshot.json");
        var text = File.ReadAllText(snapshot);
        File.WriteAllText(snapshot, text.Replace("\"version\":2", "\"version\":3", StringComparison.Ordinal));
        _stage.Machine = "paintframe-01";
        _stage.Run(
            "acrate catalogue refresh guild", 5, "does not verify: digest of the snapshot", " stay in use");
        _stage.Run("acrate search drawing", 0, "scrim-paint");
        CopyMetadata(now, site);
        _stage.Run("acrate catalogue refresh", 0, "guild  ");
        Stage.Say("And then plays back the tree of before, in which a security fix would be missing.");
        CopyMetadata(before, site);
        _stage.Run("acrate catalogue refresh guild", 5, "does not verify: timestamp rollback", "version 2 is known already");
        CopyMetadata(now, site);
        _stage.Run("acrate catalogue refresh", 0, "guild  nothing new");
    }

    private static void CopyMetadata(string from, string to)
    {
        Directory.CreateDirectory(to);
        foreach (var file in Directory.GetFiles(from, "*.json")) File.Copy(file, Path.Combine(to, Path.GetFileName(file)), true);
    }

    private void Find()
    {
        Stage.Say("Looking for something by its purpose, and for something half remembered.");
        _stage.Run("acrate search drawing", 0, "scrim-paint", "gantry-plot", "guild");
        _stage.Run("acrate search 'PAINT scrim'", 0, "scrim-paint  4.2.1", "1 app");
        _stage.Run("acrate search 'scirm paint'", 0, "these are guesses", "scrim-paint  4.2.1");
        _stage.Run("acrate search --category audio --not-installed --sort name", 0, "thundersheet");
        _stage.Run("acrate search cueledger", 0, "cue-ledger  1.5.0");
        _stage.Run(
            "acrate about scrim-paint", 0, "GPL-3.0-or-later", "Battenworks", "sha256", "Not installed.",
            "next: acrate install scrim-paint");
        _stage.Run("acrate about truss-tally", 0, "not supplied");
        Stage.Say("Two of them side by side, and one that needs something else.");
        _stage.Run("acrate about scrim-paint backcloth-render", 0, "confirmed by the catalogue", "lts 3.6.4", "next");
        _stage.Run("acrate about trapdoor-carry", 0, "batten-runtime@1..2", "also installs  batten-runtime 1.2.0");
    }

    private void PutOn()
    {
        Stage.Say("A slip of the pen changes nothing.");
        _stage.Run(
            "acrate install gantry-plot scrim-pant --yes", 3, "no app is called \"scrim-pant\"", "scrim-paint  Scrim Paint");
        _stage.Run("acrate list", 0, "0 apps");
        Stage.Say("Eight apps in one go. Scrim Paint stays on 4.2 until the cloths of this season are done.");
        const string Apps =
            "gantry-plot scrim-paint@4.2.x cue-ledger dimmer-desk flyrope-terminal backcloth-render@lts propshelf-notes "
                + "seatmap-teller";
        _stage.Run($"acrate install {Apps} --dry-run", 0, "follows @4.2.x", "8 to install");
        _stage.Run($"acrate install {Apps} --yes", 0, "8 of 8", "8 done.");
        _stage.Run("acrate install gantry-plot --yes", 0, "Nothing to do: 1 unchanged.");
        _stage.Run("cue-ledger", 0, "longest wait: 32 s");
        _stage.Run("acrate list", 0, "scrim-paint       4.2.1", "8 apps, 0 outdated");
    }

    private void KeepCurrent(string guildCards)
    {
        Stage.Say("The guild publishes new releases.");
        World.Shipped.Write("guild", guildCards, withLater: true);
        _stage.Machine = "guild-maintainer";
        _stage.Run("acrate catalogue build guild-cards guild-site --with-artifacts --keys guild-keys", 0, "Published 10 apps");
        _stage.Machine = "paintframe-01";
        _stage.Run("acrate catalogue refresh", 0, "house  nothing new", "guild  ", "downloaded");
        _stage.Run("acrate due", 0, "gantry-plot", "1 release, 137 days", "5.0.0 is newer",
            "5 of 8 apps are due, 1 security fix");
        _stage.Run("acrate upgrade --yes", 0, "5 done");
        _stage.Run("acrate due", 0, "follows @4.2.x", "Nothing is due among 8 apps");
        _stage.Run("cue-ledger --version", 0, "Cue Ledger 1.6.0");
    }

    private void GoBack()
    {
        Stage.Say("The new Gantry Plot draws the flies upside down: back, held until the vendor has mended it, and on.");
        _stage.Run("acrate runs", 0, "acrate upgrade --yes", "5 done");
        _stage.Run("acrate undo --dry-run --offline", 0, "still on this machine", "5 to downgrade");
        _stage.Run("acrate undo --yes --offline", 0, "5 done.");
        _stage.Run("gantry-plot --version", 0, "Gantry Plot 2.1.0");
        _stage.Run(
            "acrate pin gantry-plot --reason 'flies upside down in 2.2' --until 2999-03-31", 0, "is pinned to @2.1.0 until");
        _stage.Run("acrate upgrade --yes", 0, "4 done", "still due", "flies upside down in 2.2");
        _stage.Run("acrate due --check", 0, "Nothing is due among 8 apps", "pinned to @2.1.0");
        Stage.Say("It is mended; the pin goes.");
        _stage.Run("acrate pin gantry-plot --lift", 0, "is no longer pinned");
        _stage.Run("acrate upgrade --yes", 0, "1 done");
        Stage.Say("Somebody has tidied up with a broom.");
        Directory.Delete(
            Path.Combine(_stage.RootOf("paintframe-01"), ".local/share/amber-crate/shelf/cue-ledger/1.6.0+any/bin"), true);
        _stage.Run("acrate check", 9, "bin/cue-ledger is missing", "next: acrate check --repair");
        _stage.Run("acrate check --repair --yes", 0, "repair  cue-ledger", "1 done.");
        _stage.Run("cue-ledger --version", 0, "Cue Ledger 1.6.0");
        _stage.Run("acrate check --deep", 0, "every file was read");
        _stage.Run("acrate reclaim --dry-run", 0, "for undo until");
        _stage.Run("acrate schedule set upgrade --at 'Mon..Fri 22:30' --window 22:00-05:00", 0, "1 task on a timer");
        _stage.Run("acrate schedule clear", 0, "Nothing is on a timer.");
    }

    private void CarryOver()
    {
        Stage.Say("The machine is written down, and a bare one in the sound booth becomes the same.");
        _stage.Run("acrate export -o paintframe.bundle.toml --title paintframe-01", 0, "Wrote 8 apps from 2 catalogues");
        _stage.Run("cat paintframe.bundle.toml", 0, "reference = \"guild:scrim-paint@4.2.x\"", "version = \"4.2.2\"");
        var before = Installed();
        _stage.Machine = "soundbooth-02";
        Stage.Say("One of its catalogues is a folder of cards, which is not signed. This takes --unsigned.");
        _stage.Run("acrate equip paintframe.bundle.toml --yes", 4, "an unsigned folder of cards");
        _stage.Run("acrate equip paintframe.bundle.toml --unsigned --dry-run", 0,
            "catalogue guild will be added", "8 to install");
        _stage.Run("acrate equip paintframe.bundle.toml --unsigned --yes", 0, "8 done.");
        _stage.Run("acrate equip paintframe.bundle.toml --yes", 0, "Nothing to do:");
        _stage.Run("acrate list", 0, "8 apps, 0 outdated");
        _stage.Check(Installed() == before, "soundbooth-02 does not hold what paintframe-01 holds");
    }

    /// <summary>A wiped machine is rebuilt from a stick without a network; then machines are compared.</summary>
    private void FromAStick()
    {
        Stage.Say("The box office has a new disk and no network yet. The paint frame's bundle goes onto a stick, cut to fit.");
        _stage.Machine = "paintframe-01";
        Directory.CreateDirectory(Path.Combine(folder, "stick"));
        _stage.Run("acrate bundle drop paintframe.bundle.toml flyrope-terminal", 0, "taken out: flyrope-terminal");
        _stage.Run("acrate bundle include paintframe.bundle.toml house:poster-cut", 0, "added: house:poster-cut");
        _stage.Run("acrate bundle check paintframe.bundle.toml", 0, "8 apps, all offered", "no-digest");
        _stage.Run("acrate bundle seal paintframe.bundle.toml -o sealed.bundle.toml", 0, "This is not a signature.");
        _stage.Run("acrate kit make sealed.bundle.toml -o stick/frame.amberkit", 0, "Wrote");
        _stage.Run("acrate kit view stick/frame.amberkit", 0, "poster-cut", "for ");
        _stage.Machine = "boxoffice-01";
        _stage.Run(
            "acrate equip stick/frame.amberkit --unsigned --yes --offline --report stick/done.md", 0,
            "catalogue guild will be added");
        _stage.Run("acrate equip stick/frame.amberkit --unsigned --yes --offline", 0, "Nothing to do:");
        _stage.Run("cat stick/done.md", 0, "| done |");
        Stage.Say("Which machine has drifted from the bundle?");
        Directory.CreateDirectory(Path.Combine(folder, "exports"));
        foreach (var machine in new[] { "paintframe-01", "soundbooth-02", "boxoffice-01" })
        {
            _stage.Machine = machine;
            _stage.Run($"acrate export -o exports/{machine}.bundle.toml --title {machine}", 0, "Wrote");
        }

        _stage.Machine = "paintframe-01";
        _stage.Run("acrate compare paintframe.bundle.toml exports --html drift.html", 0, "2 of 3 machines differ", "1 missing");
        _stage.Run("acrate compare paintframe.bundle.toml --check", 10, "missing", "poster-cut");
        _stage.Check(File.Exists(Path.Combine(folder, "drift.html")), "the page of the comparison was not written");
    }

    private void TakeOff()
    {
        Stage.Say("The sound booth needs no seat plans.");
        _stage.Run("acrate uninstall seatmap-teller --yes", 0, "1 done.");
        _stage.Check(
            !File.Exists(Path.Combine(_stage.RootOf("soundbooth-02"), ".local/bin/seatmap-teller")),
            "seatmap-teller's command is still there");
        _stage.Run("acrate equip paintframe.bundle.toml --dry-run", 0, "1 to install", "7 unchanged");
    }

    private void Report()
    {
        Console.WriteLine();
        foreach (var fault in _stage.Faults) Console.WriteLine($"wrong: {fault}");
        Console.WriteLine($"{_stage.Checks - _stage.Faults.Count} of {_stage.Checks} checks hold.");
    }

    private static readonly string[] Facts = ["id", "version", "follows", "catalogue"];

    /// <summary>The apps of the machine with version and what was asked for: what two equal machines have in common.</summary>
    private string Installed()
    {
        using var list = JsonDocument.Parse(_stage.Look("acrate", "list", "--json"));
        return string.Join('\n', list.RootElement.GetProperty("apps").EnumerateArray()
            .Select(app => string.Join(' ', Facts.Select(name => app.GetProperty(name)))));
    }

    /// <summary>
    /// Opens a shell at a machine that has nothing yet, where the README's first ten minutes begin. Another machine has had its
    /// morning, and can be looked at with --root.
    /// </summary>
    private async Task OpenShellAsync(Uri guild)
    {
        const string Bare = "promptdesk-01";
        var tools = Directory.CreateDirectory(Path.Combine(folder, "tools")).FullName;
        var link = Path.Combine(tools, "acrate");
        File.Delete(link);
        File.CreateSymbolicLink(link, acrate);
        var root = _stage.RootOf(Bare);
        Console.WriteLine($"""

            The playhouse stands in {folder}. This shell sits at {Bare}, a bare machine; exit ends it.
            Two catalogues are published and not added yet:
              acrate catalogue add house house
              acrate catalogue add guild {guild} --trust guild-site/root.json
            paintframe-01 has had its morning: acrate list --root {_stage.RootOf("paintframe-01")}
            """);
        var start = new System.Diagnostics.ProcessStartInfo("/bin/sh", ["-i"]) { WorkingDirectory = folder };
        start.Environment["ACRATE_ROOT"] = root;
        start.Environment["ACRATE_CACHE"] = _stage.CacheOf(Bare);
        start.Environment["PATH"] = $"{tools}:{Path.Combine(root, ".local/bin")}:{Environment.GetEnvironmentVariable("PATH")}";
        start.Environment["PS1"] = $"{Bare}$ ";
        using var process = System.Diagnostics.Process.Start(start)!;
        await process.WaitForExitAsync();
    }
}
