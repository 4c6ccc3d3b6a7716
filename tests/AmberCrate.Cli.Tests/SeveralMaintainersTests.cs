using AmberCrate.Engine.Trust;
using AmberCrate.Playhouse;
using AmberCrate.Tests.Trust;
using AmberCrate.Tests;

namespace AmberCrate.Cli.Tests;

/// <summary>A signed catalogue with more than one maintainer, with mirrors, on a timer, behind other servers.</summary>
public sealed class SeveralMaintainersTests : IAsyncLifetime
{
    private static readonly string[] Build = ["catalogue", "build", "guild", "site", "--with-artifacts", "--keys", "keys"];

    private Sandbox _sandbox = null!;

    public async ValueTask InitializeAsync()
    {
        _sandbox = await Sandbox.WithServedGuildAsync();
        _sandbox.Run("catalogue", "keys", "new", "second").ShouldEnd(0);
    }

    public ValueTask DisposeAsync() => _sandbox.DisposeAsync();

    [Fact]
    public void Where_two_must_sign_nothing_is_published_before_both_have()
    {
        Include("--threshold", "2").Out.ShouldContain("targets 2 waits: 1 of 2 signatures");
        _sandbox.Run("catalogue", "refresh").ShouldPrint(0, "guild  nothing new, 10 apps");
        Sign("second").Out.ShouldContain("  targets needs 2 signatures instead of 1\n");
        Renew();
        _sandbox.Run("catalogue", "about", "guild", "--json").ShouldEnd(0);
        _sandbox.Run("catalogue", "refresh").ShouldPrint(0, "guild  nothing new, 10 apps");
        _sandbox.Run("catalogue", "about", "guild").ShouldEnd(0).Out.ShouldContain("2 of 2");

        _sandbox.PublishLater();
        for (var time = 0; time < 3; time++)
            _sandbox.Run([.. Build, "--prune", "--pages"]).ShouldEnd(0).Out.ShouldContain("targets 3 waits: 1 of 2 signatures");

        // Pages would show what machines do not read yet.
        _sandbox.Run([.. Build, "--pages"]).ShouldEnd(0)
            .Out.ShouldContain("the pages stay as they are; when everybody has signed");
        File.Exists(_sandbox["site", "index.html"]).ShouldBeFalse();
        _sandbox.Run("catalogue", "refresh").ShouldPrint(0, "guild  nothing new, 10 apps");
        _sandbox.Root = "bare";
        _sandbox.Run("catalogue", "add", "guild", _sandbox.Server.Address.ToString(), "--trust", "site/1.root.json").ShouldEnd(0);
        _sandbox.Run("search", "scrim").ShouldEnd(0).Out.ShouldContain("scrim-paint  4.2.1");

        // The second maintainer sees what it is; nobody signs a file that is another one than it says.
        _sandbox.Run("catalogue", "sign", "site", "--keys", "second").ShouldExitWith(4)
            .Out.ShouldContain("  changed: scrim-paint\n");
        var part = Directory.GetFiles(_sandbox["site", "parts"]).OrderBy(File.GetLastWriteTimeUtc).Last();
        var bytes = File.ReadAllBytes(part);
        File.WriteAllBytes(part, [.. bytes, 0]);
        _sandbox.Run("catalogue", "sign", "site", "--keys", "second", "--yes").ShouldExitWith(5);
        File.WriteAllBytes(part, bytes);
        Sign("second");
        _sandbox.Run("catalogue", "sign", "site", "--keys", "second", "--yes").ShouldExitWith(3)
            .Error.ShouldContain("nothing in ");
        Renew();
        _sandbox.Prepare.Refresh();
        _sandbox.Run("search", "scrim").ShouldEnd(0).Out.ShouldContain("scrim-paint  5.0.0");
    }

    [Fact]
    public void A_key_comes_and_goes_and_nobody_is_left_outside()
    {
        Include().Out.ShouldBe("Published root in site\n");
        _sandbox.Run("catalogue", "keys", "include", "site", "--key", "second/targets.public.pem", "--role", "targets",
            "--keys", "keys").ShouldExitWith(4).Error.ShouldContain("signs targets already");
        var own = KeyOf("keys");
        _sandbox.Run("catalogue", "keys", "drop", "site", "--id", own, "--role", "targets", "--threshold", "2", "--keys", "keys")
            .ShouldExitWith(2).Error.ShouldContain("2 of 1 keys cannot sign targets");
        _sandbox.Run("catalogue", "keys", "drop", "site", "--id", "00000000", "--role", "targets", "--keys", "keys")
            .ShouldExitWith(3);

        // What the first key has signed must be signed by the second, before the first one goes.
        _sandbox.Run("catalogue", "keys", "drop", "site", "--id", own[..8], "--role", "targets", "--keys", "keys").ShouldEnd(0)
            .Out.ShouldContain("targets 2 waits: 0 of 1 signatures");
        _sandbox.Prepare.Refresh();
        Sign("second");
        Renew();
        _sandbox.Prepare.Refresh();
        _sandbox.PublishLater();
        _sandbox.Run(Build).ShouldExitWith(4).Error.ShouldContain("is not the key that the root names for targets");
        File.Copy(_sandbox["second", "targets.pem"], _sandbox["keys", "targets.pem"], overwrite: true);
        _sandbox.Run(Build).ShouldEnd(0);
        _sandbox.Run("catalogue", "refresh").ShouldEnd(0).Out.ShouldContain("downloaded, 10 apps");
    }

    [Fact]
    public void Another_maintainer_signs_what_was_left_to_them_and_nothing_else()
    {
        string[] delegated =
            ["catalogue", "delegate", "site", "lighting", "--key", "second/targets.public.pem", "--keys", "keys", "--apps"];
        _sandbox.Run([.. delegated, "No Id"]).ShouldExitWith(2);
        _sandbox.Run([.. delegated, "*"]).ShouldEnd(0);
        var theirs = Path.Combine(_sandbox.Folder, "theirs");
        Directory.CreateDirectory(theirs);
        foreach (var name in new[] { "cue-ledger", "glow-lamp", "glow-tube" })
        {
            var card = File.ReadAllText(_sandbox["guild", "cue-ledger.appcard.toml"])
                .Replace("id = \"cue-ledger\"", $"id = \"{name}\"", StringComparison.Ordinal)
                .Replace("version = \"1.5.0\"", "version = \"9.0.0\"", StringComparison.Ordinal);
            File.WriteAllText(Path.Combine(theirs, $"{name}.appcard.toml"), card);
        }

        string[] publish = ["catalogue", "build", "theirs", "site", "--as", "lighting", "--keys", "second"];
        _sandbox.Run(publish).ShouldEnd(0).Out.ShouldContain("snapshot 3 waits: 0 of 1 signatures");
        Renew();
        _sandbox.Run("catalogue", "refresh").ShouldEnd(0).Out.ShouldContain("12 apps");

        // The catalogue's own card goes before theirs, and with narrower patterns theirs are passed over.
        _sandbox.Run("about", "cue-ledger").ShouldEnd(0).Out.ShouldNotContain("9.0.0");
        _sandbox.Run([.. delegated, "glow-l*"]).ShouldEnd(0);
        _sandbox.Run("catalogue", "refresh").ShouldEnd(0).Out.ShouldContain("11 apps");
        _sandbox.Run("install", "glow-lamp", "--dry-run").ShouldEnd(0).Out.ShouldContain("9.0.0");
        _sandbox.Run("install", "glow-tube", "--dry-run").ShouldExitWith(3);
        _sandbox.Run(publish).ShouldExitWith(4).Error.ShouldContain("lighting may not sign cue-ledger");
        _sandbox.Run("catalogue", "about", "guild").ShouldEnd(0).Out.ShouldContain("lighting signs glow-l*\n");

        // Pages show what machines take of theirs, and say so where it does not verify.
        _sandbox.Run([.. Build, "--pages"]).ShouldEnd(0).Out.Split('\n')[2]
            .ShouldBe("13 pages for a browser; the first is site/index.html");
        File.ReadAllText(_sandbox["site", "pages", "apps", "glow-lamp.html"]).ShouldContain("9.0.0");
        File.ReadAllText(_sandbox["site", "pages", "apps", "cue-ledger.html"]).ShouldNotContain("9.0.0");
        File.Exists(_sandbox["site", "pages", "apps", "glow-tube.html"]).ShouldBeFalse();
        var part = Directory.EnumerateFiles(_sandbox["site"], "*.zst", SearchOption.AllDirectories).Single(IsTheirs);
        var content = File.ReadAllBytes(part);
        File.WriteAllBytes(part, [.. content.Reverse()]);
        const string without = "the apps that were left to others are not on the pages: ";
        var told = _sandbox.Run(Build).ShouldEnd(0).Out.Split('\n')
            .Single(line => line.StartsWith(without, StringComparison.Ordinal));
        var json = _sandbox.Run([.. Build, "--json"]).ShouldEnd(0).Json;
        told.ShouldBe(without + json.GetProperty("without_others").GetString());
        (json.GetProperty("pages_wait").GetBoolean(), json.GetProperty("removed").GetArrayLength()).ShouldBe((false, 0));
        File.ReadAllText(_sandbox["site", "pages", "all.html"]).ShouldNotContain("glow-lamp");
        File.WriteAllBytes(part, content);
        Directory.Delete(_sandbox["site", "pages"], recursive: true);
        File.Delete(_sandbox["site", "index.html"]);

        // An app that the catalogue drops can be theirs; a copy has what they have signed, too.
        _sandbox.Run([.. delegated, "glow-l*", "--apps", "cue-ledger"]).ShouldEnd(0);
        File.Delete(_sandbox["guild", "cue-ledger.appcard.toml"]);
        _sandbox.Run(Build).ShouldEnd(0);
        _sandbox.Run("catalogue", "refresh").ShouldEnd(0).Out.ShouldContain("11 apps");
        _sandbox.Run("about", "cue-ledger").ShouldEnd(0).Out.ShouldContain("9.0.0");
        _sandbox.Run("catalogue", "mirror", "guild", "copy").ShouldEnd(0);
        _sandbox.Root = "other";
        _sandbox.Run("catalogue", "add", "guild", "copy", "--trust", "site/root.json").ShouldEnd(0).Out.ShouldContain("11 apps");
        _sandbox.Run("catalogue", "delegate", "site", "lighting", "--end", "--keys", "keys").ShouldEnd(0);
        _sandbox.Run("catalogue", "mirror", "guild", "copy").ShouldEnd(0);
        _sandbox.Root = "root";
        _sandbox.Run("catalogue", "refresh").ShouldEnd(0).Out.ShouldContain("9 apps");
    }

    private static bool IsTheirs(string path) => path.Contains("/lighting/", StringComparison.Ordinal);

    [Fact]
    public async Task Two_publications_at_once_do_not_mix()
    {
        using (PublicationLock.Acquire(_sandbox["site"]))
        {
            _sandbox.Run(Build).ShouldExitWith(8).Error.ShouldContain("another process is publishing to site");
            _sandbox.Run("catalogue", "renew", "site", "--keys", "keys").ShouldExitWith(8);
        }

        for (var time = 0; time < 3; time++)
        {
            Directory.CreateDirectory(_sandbox["guild", "bundles"]);
            File.WriteAllText(
                _sandbox["guild", "bundles", "frame.bundle.toml"],
                $"bundle = 1\ntitle = \"Frame {time}\"\n[[apps]]\nreference = \"cue-ledger\"\n");
            using var first = _sandbox.Start(Build);
            using var second = _sandbox.Start(Build);
            foreach (var process in new[] { first, second })
                await process.EndInTimeAsync();
            new[] { first.ExitCode, second.ExitCode }.ShouldBeSubsetOf([0, 8]);
            (first.ExitCode * second.ExitCode).ShouldBe(0);
            _sandbox.Prepare.Refresh();
        }
    }

    [Fact]
    public async Task A_mirror_beside_a_catalogue_takes_the_load_and_is_trusted_no_more_than_the_network()
    {
        _sandbox.Run("catalogue", "mirror", "guild", "copy", "--with-artifacts").ShouldEnd(0);
        await using var mirror = await StaticServer.StartAsync(_sandbox["copy"]);
        _sandbox.Root = "other";
        string[] add =
            ["catalogue", "add", "guild", _sandbox.Server.Address.ToString(), "--mirror", mirror.Address.ToString()];
        _sandbox.Run("catalogue", "add", "house", "house", "--mirror", "copy").ShouldExitWith(4);
        _sandbox.Server.Requests.Clear();
        _sandbox.Run([.. add, "--trust", "site/root.json"]).ShouldEnd(0);
        _sandbox.Prepare.Install("cue-ledger");
        _sandbox.Server.Requests.ShouldNotContain(request => request.Path.Contains("parts/") || request.Path.Contains("files/"));
        _sandbox.Run("catalogue", "about", "guild").ShouldEnd(0).Out.ShouldContain($"  mirror     {mirror.Address}");

        // A mirror that lies, or lags behind, is passed over.
        foreach (var file in Directory.GetFiles(_sandbox["copy", "files"])) File.AppendAllText(file, "more");
        _sandbox.Prepare.Install("scrim-paint");
        _sandbox.PublishLater();
        _sandbox.Run(Build).ShouldEnd(0);
        _sandbox.Run("catalogue", "refresh").ShouldEnd(0).Out.ShouldContain("downloaded");
        _sandbox.Run("upgrade", "--yes").ShouldEnd(0).Out.ShouldContain("scrim-paint 5.0.0");

        // Where the catalogue cannot be reached the mirror answers, and an older state is not believed.
        foreach (var file in new[] { "2.root.json", "timestamp.json" })
            _sandbox.Server.Faults[file] = new ServerFault.Status(503);
        _sandbox.Run("catalogue", "refresh").ShouldEnd(5).Out.ShouldContain("timestamp rollback");
        _sandbox.Server.Faults.Clear();
        _sandbox.Run("catalogue", "mirror", "guild", "copy").ShouldEnd(0);
        _sandbox.Server.Faults["timestamp.json"] = new ServerFault.Status(503);
        _sandbox.Run("catalogue", "refresh").ShouldPrint(0, "guild  nothing new, 10 apps");
    }

    [Fact]
    public void A_catalogue_is_renewed_on_a_timer()
    {
        var forge = new MetadataForge(_sandbox["site"], _sandbox["keys"]);
        _sandbox.Run("schedule", "set", "renew", "--at", "daily").ShouldExitWith(2)
            .Error.ShouldContain("renew needs the published folder, and --keys");
        _sandbox.Run("schedule", "set", "renew", "nowhere", "--keys", "keys", "--at", "daily").ShouldExitWith(3);
        _sandbox.Run("schedule", "set", "due", "--keys", "keys", "--at", "daily").ShouldExitWith(2);
        _sandbox.Run("schedule", "set", "renew", "site", "--keys", "keys", "--at", "daily").ShouldEnd(0)
            .Out.ShouldContain("1 task on a timer");
        _sandbox.Run("schedule", "show", "--json").ShouldEnd(0).Json.GetProperty("schedules")[0].GetProperty("published")
            .GetString().ShouldBe("~/site");
        _sandbox.Run("schedule", "run", "renew").ShouldPrint(0, "acrate: nothing ends soon");
        forge.ChangeTimestamp(content => content["expires"] = "2020-01-01T00:00:00Z");
        _sandbox.Run("schedule", "run", "renew").ShouldPrint(0, "acrate: signed timestamp");
        _sandbox.Prepare.Refresh();
    }

    /// <summary>The page for maintainers shows the lines for nginx; they do.</summary>
    [Fact]
    public void A_plain_nginx_serves_a_catalogue()
    {
        Assert.SkipUnless(File.Exists("/usr/sbin/nginx"), "it takes nginx");
        var page = File.ReadAllText(Path.Combine(BuiltProgram.Repository, "docs", "maintaining.md"));
        var begin = page.IndexOf("    server {\n", StringComparison.Ordinal);
        var port = FreePort();
        var server = page[begin..page.IndexOf("\n    }\n", begin, StringComparison.Ordinal)]
            .Replace("listen 80;", $"listen 127.0.0.1:{port};", StringComparison.Ordinal)
            .Replace("root /srv/guild;", $"root {_sandbox["site"]};", StringComparison.Ordinal) + "\n}\n";
        Directory.CreateDirectory(_sandbox["nginx"]);
        File.WriteAllText(
            _sandbox["nginx", "nginx.conf"],
            $"daemon off; {(Environment.UserName == "root" ? "user root; " : "")}pid {_sandbox["nginx", "pid"]};\n"
                + "error_log stderr; events {}\nhttp { access_log off; "
                + string.Concat(new[] { "client_body", "proxy", "fastcgi", "uwsgi", "scgi" }.Select(
                    one => $"{one}_temp_path {_sandbox["nginx", one]}; ")) + server + "}\n");
        using var nginx = System.Diagnostics.Process.Start(
            new System.Diagnostics.ProcessStartInfo("/usr/sbin/nginx", ["-p", _sandbox["nginx"], "-c", "nginx.conf"])
            {
                UseShellExecute = false, RedirectStandardError = true,
            })!;
        try
        {
            for (var time = 0; time < 100 && !Answers(port); time++) Thread.Sleep(50);
            _sandbox.Root = "behind";
            _sandbox.Run("catalogue", "add", "guild", $"http://127.0.0.1:{port}/", "--trust", "site/root.json").ShouldEnd(0);
            _sandbox.Prepare.Install("cue-ledger");
            _sandbox.PublishLater();
            _sandbox.Run(Build).ShouldEnd(0);
            _sandbox.Run("catalogue", "refresh").ShouldEnd(0).Out.ShouldContain("downloaded");
            _sandbox.Run("catalogue", "keys", "rotate", "site", "--role", "online", "--keys", "keys").ShouldEnd(0);
            _sandbox.Run("catalogue", "refresh").ShouldPrint(0, "guild  nothing new, 10 apps");
        }
        finally
        {
            nginx.Kill(entireProcessTree: true);
            nginx.EndInTime();
        }

        static bool Answers(int port)
        {
            try
            {
                using var client = new System.Net.Sockets.TcpClient("127.0.0.1", port);
                return true;
            }
            catch (System.Net.Sockets.SocketException)
            {
                return false;
            }
        }

        static int FreePort()
        {
            using var listener = new System.Net.Sockets.TcpListener(System.Net.IPAddress.Loopback, 0);
            listener.Start();
            return ((System.Net.IPEndPoint)listener.LocalEndpoint).Port;
        }
    }

    /// <summary>The program is an app like others: what is new is verified, what is running goes on with the old file.</summary>
    [Fact]
    public void The_program_upgrades_itself()
    {
        var program = File.ReadAllBytes(Sandbox.Program);
        Assert.SkipUnless(program.Length > 10 << 20, "it takes the one native file");
        foreach (var version in new[] { "1.0.0", "1.1.0" })
        {
            // The same program with a byte more behind its end is another file, and works as well.
            byte[] file = [.. program, .. version == "1.1.0" ? "\n"u8 : ""u8];
            File.WriteAllBytes(_sandbox["guild", "files", $"acrate-{version}"], file);
            var releases = version == "1.0.0" ? new[] { version } : ["1.1.0", "1.0.0"];
            File.WriteAllText(_sandbox["guild", "acrate.appcard.toml"], """
                appcard = 1
                id = "acrate"
                type = "console-application"
                name = "Amber Crate"
                summary = "Install and upgrade the software of this machine"
                [[place.commands]]
                name = "acrate"
                path = "acrate"
                """ + "\n" + string.Concat(releases.Select(one => Release(one))));
            _sandbox.Run(Build).ShouldEnd(0);
            _sandbox.Prepare.Refresh();
            if (version == "1.0.0") _sandbox.Run("install", "acrate", "--yes").ShouldEnd(0);
            else _sandbox.RunBy(Installed(), "upgrade", "acrate", "--yes").ShouldEnd(0).Out.ShouldContain("acrate 1.1.0");
        }

        File.ReadAllBytes(Installed()).Length.ShouldBe(program.Length + 1);
        Directory.GetDirectories(_sandbox["root", ".local", "share", "amber-crate", "shelf", "acrate"]).Length.ShouldBe(2);
        _sandbox.RunBy(Installed(), "list").ShouldEnd(0).Out.ShouldContain("1.1.0");
        _sandbox.RunBy(Installed(), "undo", "--yes").ShouldEnd(0);
        File.ReadAllBytes(Installed()).Length.ShouldBe(program.Length);

        // Nobody else has the command, and nobody has it without a signature.
        _sandbox.Root = "other";
        _sandbox.Run("catalogue", "add", "house", "guild").ShouldEnd(0);
        _sandbox.Run("install", "acrate", "--yes").ShouldExitWith(4).Error.ShouldContain("is taken from signed catalogues only");
        var card = File.ReadAllText(_sandbox["guild", "acrate.appcard.toml"]);
        File.WriteAllText(
            _sandbox["guild", "other.appcard.toml"], card.Replace("id = \"acrate\"", "id = \"other\"", StringComparison.Ordinal));
        _sandbox.Run(Build).ShouldExitWith(5).Error.ShouldContain("expected no command acrate");

        string Installed() => _sandbox["root", ".local", "bin", "acrate"];

        string Release(string version)
        {
            var file = File.ReadAllBytes(_sandbox["guild", "files", $"acrate-{version}"]);
            return $"""
                [[releases]]
                version = "{version}"
                date = 2026-11-01
                [[releases.artifacts]]
                platform = "any-linux-any"
                location = "files/acrate-{version}"
                filename = "acrate"
                format = "executable"
                sha256 = "{Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(file))}"
                download_size = {file.Length}

                """;
        }
    }

    private Result Include(params string[] more) => _sandbox.Run(
        [
            "catalogue", "keys", "include", "site", "--key", "second/targets.public.pem", "--role", "targets", "--keys", "keys",
            .. more,
        ]).ShouldEnd(0);

    private Result Sign(string keys) => _sandbox.Run("catalogue", "sign", "site", "--keys", keys, "--yes").ShouldEnd(0);

    private void Renew() => _sandbox.Run("catalogue", "renew", "site", "--keys", "keys").ShouldEnd(0);

    private string KeyOf(string folder) => System.Text.Json.JsonDocument
        .Parse(_sandbox.Run("catalogue", "keys", "list", folder, "--json").ShouldEnd(0).Out).RootElement
        .GetProperty("keys").EnumerateArray().First(key => key.GetProperty("name").GetString() == "targets")
        .GetProperty("id").GetString()!;
}
