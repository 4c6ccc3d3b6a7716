using System.Diagnostics;
using AmberCrate.Tests;

namespace AmberCrate.Cli.Tests;

/// <summary>The pages of a catalogue, in Debian's Chromium.</summary>
public sealed class PagesTests : IAsyncLifetime
{
    private const string Ready = "document.querySelectorAll('#apps li').length > 0";
    private const string Names = "[...document.querySelectorAll('#apps .head a')].map(a => a.textContent).join('|')";
    private const string Evil = "<img src=x onerror=document.title='RUN'></script><script>document.title='RUN'</script>&'";

    private Sandbox _sandbox = null!;

    public async ValueTask InitializeAsync()
    {
        _sandbox = await Sandbox.WithServedGuildAsync();
        Build();
    }

    public ValueTask DisposeAsync() => _sandbox.DisposeAsync();

    [Fact]
    public async Task A_bundle_taken_from_the_page_equips_a_bare_machine()
    {
        await using var browser = await Browser.StartAsync(_sandbox.Folder);
        await browser.OpenAsync(_sandbox.Server.Address.ToString(), Ready);

        // By keyboard alone: to the field, a word, and to the box of the first app.
        await FocusAsync(browser, "find");
        await browser.TypeAsync("cue");
        await browser.WaitAsync($"{Names} === 'Cue Ledger'");
        (await browser.TellAsync("document.getElementById('said').textContent")).ShouldBe("1 app");
        await UntilFocusAsync(browser, "document.activeElement.getAttribute('aria-label') === 'Take Cue Ledger'");
        await browser.PressAsync("Space");
        await FocusAsync(browser, "find");
        await browser.TellAsync("document.getElementById('find').select()");
        await browser.TypeAsync("backcloth");
        await browser.WaitAsync($"{Names} === 'Backcloth Render'");
        await UntilFocusAsync(browser, "document.activeElement.getAttribute('aria-label') === 'Take Backcloth Render'");
        await browser.PressAsync("Space");
        await FocusAsync(browser, "follows-backcloth-render");
        await browser.PressAsync("ArrowDown");
        await browser.WaitAsync("location.hash.includes('take=cue-ledger,backcloth-render@lts')");
        await FocusAsync(browser, "title");
        await browser.TellAsync("document.getElementById('title').select()");
        await browser.TypeAsync("Paint \"frame\" 2");
        await FocusAsync(browser, "save");
        await browser.PressAsync("Enter");

        var saved = _sandbox["paint-frame-2.bundle.toml"];
        await Browser.UntilAsync(() => File.Exists(saved) ? saved : null);
        File.ReadAllText(saved).ShouldBe($"""
            # A bundle: apps to equip a machine with (acrate equip FILE).
            bundle = 1
            title = "Paint \"frame\" 2"

            [[catalogues]]
            name = "guild"
            location = "{_sandbox.Server.Address}"
            root_sha256 = "{Root}"

            [[apps]]
            reference = "guild:cue-ledger"

            [[apps]]
            reference = "guild:backcloth-render@lts"

            """);
        browser.Said.ShouldBeEmpty();
        browser.Asked.ShouldAllBe(address => address.StartsWith(_sandbox.Server.Address.ToString(), StringComparison.Ordinal)
            || address.StartsWith("blob:", StringComparison.Ordinal) || address == "about:blank");

        _sandbox.Root = "bare";
        _sandbox.Run("equip", saved, "--yes").ShouldEnd(0).Out.ShouldContain("2 done.\n");
        _sandbox.Run("list", "--json").ShouldEnd(0).Out.ShouldContain("\"follows\": \"lts\"");

        // The other two ways: what the page shows is what is typed.
        await browser.TellAsync("document.querySelector('input[value=list]').click()");
        File.WriteAllText(_sandbox["page.list"], await browser.TellAsync("document.getElementById('text').textContent"));
        _sandbox.Run("install", "--list-file", "page.list", "--yes").ShouldEnd(0).Out.ShouldContain("2 unchanged");
        await browser.TellAsync("document.querySelector('input[value=command]').click()");
        (await browser.TellAsync("document.getElementById('text').textContent")).ShouldBe(
            $"acrate catalogue add guild {_sandbox.Server.Address} --trust {Root}\n"
                + "acrate install guild:cue-ledger guild:backcloth-render@lts\n");
    }

    [Fact]
    public async Task The_page_ranks_as_the_program_does()
    {
        foreach (var (app, line) in new[]
        {
            ("scrim-paint", "mimetypes = [\"image/svg+xml\"]"),
            ("gantry-plot", "mimetypes = [\"image/svg+xml\", \"image/vnd.dwg\"]"),
        })
        {
            var card = _sandbox["guild", $"{app}.appcard.toml"];
            File.WriteAllText(
                card, File.ReadAllText(card).Replace("\nkeywords = [", $"\n{line}\nkeywords = [", StringComparison.Ordinal));
        }

        Build();
        _sandbox.Prepare.Refresh();
        await using var browser = await Browser.StartAsync(_sandbox.Folder);
        foreach (var words in new[]
        {
            "paint", "cue sheets", "cueledger", "lightning", "i need something for lighting", "battenworks", "teh terminal",
            "plan rigging for a stage", "scrm paint", "editing pictures", "c++", "zzzzzz", ".svg", "*.dwg", "paint .svg", "svg",
        })
        {
            await browser.OpenAsync($"{_sandbox.Server.Address}#find={Uri.EscapeDataString(words)}");
            await browser.WaitAsync("!/^(Reading.*)?$/.test(document.getElementById('said').textContent)");
            var found = _sandbox.Run(["search", .. words.Split(' '), "--json", "--limit", "40"]);
            found.ExitCode.ShouldBeOneOf(0, 3);
            var expected = found.ExitCode == 3
                ? ""
                : string.Join('|', found.Json.GetProperty("results").EnumerateArray()
                    .Select(app => app.GetProperty("name").GetString()));
            (await browser.TellAsync(Names)).ShouldBe(expected, words);
        }

        await browser.OpenAsync($"{_sandbox.Server.Address}#find=.svg", $"{Names} === 'Gantry Plot|Scrim Paint'");
    }

    [Fact]
    public async Task The_page_is_searched_in_the_language_of_the_person_as_the_program_is()
    {
        AddTo("scrim-paint", "de", "Bühnenmaler", "Malt Prospekte und Schleier für die Bühne", "Leinwand");
        AddTo("cue-ledger", "de", "Stichwortbuch", "Schreibt die Stichworte einer Vorstellung auf", "Stichwörter");
        AddTo("cue-ledger", "de_AT", "Einsatzbuch", null);
        AddTo("dimmer-desk", "fr", "Pupitre", "Régler la lumière des spectacles", "éclairage");
        Build();
        _sandbox.Prepare.Refresh();
        await using var browser = await Browser.StartAsync(_sandbox.Folder);
        foreach (var (language, words) in new[]
        {
            ("de", "leinwand"), ("de", "buhnenmaler"), ("de", "prospekt"), ("de", "ich brauche ein programm zum malen"),
            ("de", "stichwort"), ("de", "stichwrotbuch"), ("de", "scrim"), ("de_AT", "einsatzbuch"), ("de_AT", "stichworte"),
            ("fr", "eclairages"), ("fr", "la lumiere"), ("", "leinwand"), ("xx", "leinwand"),
        })
        {
            await browser.OpenAsync($"{_sandbox.Server.Address}#find={Uri.EscapeDataString(words)}&language={language}");
            await browser.WaitAsync("!/^(Reading.*)?$/.test(document.getElementById('said').textContent)");
            string[] call = ["search", .. words.Split(' '), "--json", "--limit", "40"];
            var found = _sandbox.Run(language.Length > 1 ? [.. call, "--language", language] : call);
            var expected = found.ExitCode == 3
                ? ""
                : string.Join('|', found.Json.GetProperty("results").EnumerateArray()
                    .Select(app => app.GetProperty("name").GetString()));
            (await browser.TellAsync(Names)).ShouldBe(expected, $"{words}, {language}");
        }

        (await browser.TellAsync("[...document.getElementById('language').options].map(o => o.value + ' ' + o.text).join('|')"))
            .ShouldBe(" English|de Deutsch|fr français|de_AT Österreichisches Deutsch");
        await browser.OpenAsync(
            $"{_sandbox.Server.Address}#find=stichwort&language=de_AT&take=cue-ledger", $"{Names} === 'Einsatzbuch'");
        (await browser.TellAsync("document.querySelector('#apps li').innerText"))
            .ShouldContain("Schreibt die Stichworte einer Vorstellung auf");
        (await browser.TellAsync("document.querySelector('#apps .head a').lang")).ShouldBe("de-AT");
        (await browser.TellAsync("document.querySelector('#taken a').textContent")).ShouldBe("Einsatzbuch");
        await browser.TellAsync(
            "(() => { const chosen = document.getElementById('language'); chosen.value = ''; "
                + "chosen.dispatchEvent(new Event('change')); })()");
        await browser.WaitAsync(
            "document.querySelector('#taken a').textContent === 'Cue Ledger' && !location.hash.includes('language')");
        await browser.OpenAsync($"file://{_sandbox["site"]}/index.html#find=leinwand&language=de", $"{Names} === 'Bühnenmaler'");
        await browser.OpenAsync($"{_sandbox.Server.Address}pages/apps/cue-ledger.html");
        (await browser.TellAsync("document.querySelector('dd[lang=de-AT]').textContent")).ShouldBe("Einsatzbuch");
        browser.Said.ShouldBeEmpty();

        // A language whose file has not come along.
        foreach (var file in Directory.GetFiles(_sandbox["site"], "local-de-*.js", SearchOption.AllDirectories))
            File.Delete(file);
        await browser.OpenAsync($"file://{_sandbox["site"]}/index.html#find=scrim&language=de", $"{Names} === 'Scrim Paint'");
    }

    [Fact]
    public async Task No_text_of_a_card_or_of_an_address_runs_as_script()
    {
        AddTo("cue-ledger", "de", Evil, Evil, Evil[..40]);
        var card = _sandbox["guild", "cue-ledger.appcard.toml"];
        File.WriteAllText(card, File.ReadAllText(card)
            .Replace("name = \"Cue Ledger\"", $"name = \"{Evil}\"", StringComparison.Ordinal)
            .Replace("keywords = [", $"keywords = [\"{Evil[..40]}\", ", StringComparison.Ordinal)
            + $"\n[[screenshots]]\naddress = \"https://a.example/'onclick=document.title=1'\"\ncaption = \"{Evil}\"\n");
        var settings = _sandbox["guild", "catalogue.toml"];
        File.WriteAllText(settings, File.ReadAllText(settings).Replace("Stagecraft guild", Evil, StringComparison.Ordinal));
        Build();
        await using var browser = await Browser.StartAsync(_sandbox.Folder);
        foreach (var address in new[]
        {
            "#take=cue-ledger&language=de", $"#language={Uri.EscapeDataString(Evil)}", "#language=constructor",
            $"#find=img&kind={Uri.EscapeDataString(Evil)}&take=cue-ledger@{Uri.EscapeDataString(Evil)},constructor&add=__proto__",
            "#take=cue-ledger",
            "pages/apps/cue-ledger.html", "pages/all.html",
        })
        {
            await browser.OpenAsync($"{_sandbox.Server.Address}{address}", "document.body.innerText.includes('onerror')");
            (await browser.TellAsync("document.title")).ShouldNotBe("RUN");
            (await browser.TellAsync("document.querySelectorAll('img').length")).ShouldBe("0");
        }

        browser.Said.ShouldBeEmpty();

        // Somebody has brought HTML into a page in another way: the policy still runs nothing of it.
        File.WriteAllText(_sandbox["site", "pages", "all.html"], File.ReadAllText(_sandbox["site", "pages", "all.html"])
            .Replace("<main>", "<main><script>document.title='RUN'</script><img src=x onerror=\"document.title='RUN'\">",
                StringComparison.Ordinal));
        await browser.OpenAsync($"{_sandbox.Server.Address}pages/all.html");
        (await browser.TellAsync("document.title")).ShouldNotBe("RUN");
        browser.Said.ShouldContain(text => text.Contains("Content Security Policy", StringComparison.Ordinal));
    }

    [Fact]
    public async Task A_checker_of_accessibility_finds_nothing_in_either_look_and_a_phone_shows_all()
    {
        await using var browser = await Browser.StartAsync(_sandbox.Folder);
        await browser.ResizeAsync(390, 844);
        foreach (var page in new[] { "#take=cue-ledger", "pages/apps/scrim-paint.html", "pages/all.html" })
        {
            await browser.OpenAsync($"{_sandbox.Server.Address}{page}");
            (await browser.TellAsync("document.documentElement.scrollWidth <= innerWidth")).ShouldBe("true", page);
        }

        await browser.ResizeAsync(1280, 800);
        var axe = await AxeAsync();
        foreach (var look in new[] { "light", "dark" })
        {
            await browser.PreferAsync(look);
            foreach (var page in new[] { "#find=paint&take=cue-ledger", "pages/apps/scrim-paint.html", "pages/all.html" })
            {
                await browser.OpenAsync($"{_sandbox.Server.Address}{page}");
                await browser.DoAsync(axe);
                (await browser.TellAsync(
                    "axe.run().then(found => found.violations.map(one => one.id + ': ' + one.nodes.map(node => node.html "
                        + "+ node.failureSummary).join()).join('\\n'))")).ShouldBe("", $"{page}, {look}");
            }
        }
    }

    [Fact]
    public async Task The_pages_work_from_a_folder()
    {
        await using var browser = await Browser.StartAsync(_sandbox.Folder);
        await browser.OpenAsync(
            $"file://{_sandbox["site"]}/index.html#find=paint&take=cue-ledger", $"{Names}.startsWith('Scrim Paint')");
        (await browser.TellAsync("document.getElementById('text').textContent"))
            .ShouldContain($"location = \"{_sandbox["site"]}/\"");
        browser.Said.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_page_of_an_app_says_what_its_card_says()
    {
        var card = _sandbox["guild", "scrim-paint.appcard.toml"];
        var text = File.ReadAllText(card);
        File.WriteAllText(card, text + "\n[[screenshots]]\naddress = \"pictures/frame.png\"\ncaption = \"A cloth\"\n");
        _sandbox.Run("catalogue", "build", "guild", "site", "--keys", "keys").ShouldExitWith(5);
        Directory.CreateDirectory(_sandbox["guild", "pictures"]);
        var picture = Path.Combine(BuiltProgram.Repository, "docs", "screenshots", "search.png");
        File.Copy(picture, _sandbox["guild", "pictures", "frame.png"]);
        Build();
        await using var browser = await Browser.StartAsync(_sandbox.Folder);
        await browser.OpenAsync($"{_sandbox.Server.Address}pages/apps/scrim-paint.html", "document.images[0].complete");
        (await browser.TellAsync("document.images[0].naturalWidth")).ShouldBe("1280");
        var shown = await browser.TellAsync("document.body.innerText");
        foreach (var release in _sandbox.Run("about", "scrim-paint", "--json").ShouldEnd(0).Json.GetProperty("card")
            .GetProperty("releases").EnumerateArray())
        {
            shown.ShouldContain(release.GetProperty("version").GetString()!);
            shown.ShouldContain(release.GetProperty("artifacts")[0].GetProperty("sha256").GetString()!);
        }

        shown.ShouldContain("GPL-3.0-or-later");
        (await browser.TellAsync("document.getElementById('command').textContent")).ShouldBe("acrate install guild:scrim-paint");
        await browser.TellAsync("[...document.links].find(a => a.textContent === 'Put it in my crate').click()");
        await browser.WaitAsync("location.hash === '#take=scrim-paint'");
    }

    [Fact]
    public void Pages_are_renewed_with_the_catalogue_and_leave_nothing_behind()
    {
        var before = Files();
        _sandbox.Run("catalogue", "build", "guild", "site", "--keys", "keys").ShouldEnd(0);
        Files().ShouldBe(before, "nothing has changed");
        File.Delete(_sandbox["guild", "truss-tally.appcard.toml"]);
        _sandbox.Run("catalogue", "build", "guild", "site", "--keys", "keys").ShouldEnd(0).Out.ShouldContain("11 pages");
        var apps = before.Single(file => file.Contains("apps-", StringComparison.Ordinal));
        File.ReadAllText(_sandbox["site", "index.html"]).ShouldNotContain(apps);
        before.ShouldAllBe(file => File.Exists(_sandbox["site", file]), "who is in the middle finds what was named before");
        _sandbox.Run("catalogue", "build", "guild", "site", "--keys", "keys").ShouldEnd(0);
        Files().Count.ShouldBe(before.Count - 1);
        File.Delete(_sandbox["site", "index.html"]);
        _sandbox.Run("catalogue", "build", "guild", "site", "--keys", "keys").ShouldEnd(0);
        _sandbox.Run("catalogue", "build", "guild", "site", "--keys", "keys").ShouldEnd(0);
        Files().ShouldBeEmpty("without the first page, the others go");
        File.WriteAllText(_sandbox["site", "index.html"], "somebody's own");
        var refused = _sandbox.Run("catalogue", "build", "guild", "site", "--pages", "--keys", "keys");
        refused.ShouldFail(4, """
            acrate: site/index.html was not made by acrate
              why: nothing has been published
              next: move it away, or publish to another folder
            """);
        File.ReadAllText(_sandbox["site", "index.html"]).ShouldBe("somebody's own");

        IReadOnlyList<string> Files() =>
            [.. _sandbox.Tree("site").Where(file => file.StartsWith("pages/", StringComparison.Ordinal))];
    }

    private string Root =>
        Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(File.ReadAllBytes(_sandbox["site", "root.json"])));

    /// <summary>Has a card say something in another language.</summary>
    private void AddTo(string app, string language, string name, string? summary, params string[] keywords)
    {
        static string Quoted(string text) =>
            $"\"{text.Replace("\\", "\\\\", StringComparison.Ordinal).Replace("\"", "\\\"", StringComparison.Ordinal)}\"";
        File.AppendAllText(_sandbox["guild", $"{app}.appcard.toml"],
            $"\n[translations.\"{language}\"]\nname = {Quoted(name)}\n"
                + (summary is null ? "" : $"summary = {Quoted(summary)}\n")
                + (keywords.Length == 0 ? "" : $"keywords = [{string.Join(", ", keywords.Select(Quoted))}]\n"));
    }

    private void Build() => _sandbox.Run(
        "catalogue", "build", "guild", "site", "--with-artifacts", "--pages", "--keys", "keys").ShouldEnd(0);

    private static Task FocusAsync(Browser browser, string id) =>
        UntilFocusAsync(browser, $"document.activeElement.id === '{id}'");

    /// <summary>Presses Tab until the focus is where a condition holds.</summary>
    private static async Task UntilFocusAsync(Browser browser, string condition)
    {
        for (var pressed = 0; await browser.TellAsync(condition) != "true"; pressed++)
        {
            pressed.ShouldBeLessThan(80, condition);
            await browser.PressAsync("Tab");
        }
    }

    /// <summary>axe-core, as the npm registry has it.</summary>
    private async Task<string> AxeAsync()
    {
        Assert.SkipUnless(File.Exists("/usr/bin/npm"), "it takes npm");
        foreach (var file in Directory.GetFiles(Path.Combine(BuiltProgram.Repository, "tests", "validators")))
            File.Copy(file, _sandbox[Path.GetFileName(file)]);
        using var npm = Process.Start(new ProcessStartInfo("npm", ["ci", "--silent", "--no-audit", "--no-fund"])
        {
            WorkingDirectory = _sandbox.Folder, UseShellExecute = false, RedirectStandardOutput = true,
            RedirectStandardError = true,
        })!;
        await npm.EndInTimeAsync();
        Assert.SkipUnless(npm.ExitCode == 0, "it takes the npm registry");
        return await File.ReadAllTextAsync(_sandbox["node_modules", "axe-core", "axe.min.js"]);
    }
}
