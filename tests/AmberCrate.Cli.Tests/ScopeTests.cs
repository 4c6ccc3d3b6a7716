using AmberCrate.Tests;

namespace AmberCrate.Cli.Tests;

public sealed class ScopeTests
{
    private const UnixFileMode Private = UnixFileMode.UserRead | UnixFileMode.UserWrite;

    [Fact]
    public async Task Everyones_apps_have_places_records_and_catalogues_of_their_own()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.MakeImage();
        sandbox.Run("install", "--all-users", "scrim-paint", "--yes").ShouldFail(3, """
            acrate: no app is called "scrim-paint"
              why: no catalogue has been added yet
              next: acrate catalogue add --all-users NAME LOCATION
            """);
        sandbox.Run("catalogue", "add", "--all-users", "guild", "guild").ShouldEnd(0);
        sandbox.Run("install", "--all-users", "scrim-paint", "--yes").ShouldEnd(0).Out.ShouldContain(
            "1 of 1  done       scrim-paint 4.2.1\n");
        sandbox.Tree("root").Where(path => !path.StartsWith("opt/amber-crate/shelf/", StringComparison.Ordinal)).ShouldBe(
        [
            "opt/amber-crate/front/scrim-paint -> ../shelf/scrim-paint/4.2.1+any",
            "usr/local/bin/scrim-paint -> ../../../opt/amber-crate/front/scrim-paint/bin/scrim-paint",
            "usr/local/share/applications/scrim-paint.desktop",
            "usr/local/share/icons/hicolor/scalable/apps/scrim-paint.svg",
        ]);
        Directory.EnumerateFiles(sandbox["root", "var", "cache", "amber-crate", "downloads"]).Count().ShouldBe(1);
        sandbox.Run("list", "--all-users").ShouldEnd(0).Out.ShouldContain(
            "scrim-paint  4.2.1    guild      desktop app  Scrim Paint   just now\n");
        sandbox.Run("list").ShouldEnd(0).Out.ShouldContain(
            "scrim-paint  4.2.1    all users  guild      desktop app  Scrim Paint   just now\n");
        sandbox.Run("due", "--json").ShouldEnd(0).Json.GetProperty("apps").GetArrayLength().ShouldBe(0);
        sandbox.Run("uninstall", "scrim-paint", "--yes")
            .ShouldRefuse(3, "scrim-paint is installed for all users, not for you alone");
        sandbox.Run("uninstall", "--all-users", "scrim-paint", "--yes").ShouldEnd(0);
        sandbox.Tree("root").ShouldBeEmpty();
    }

    [Fact]
    public async Task The_same_app_in_both_scopes_is_two_and_warned_about()
    {
        await using var sandbox = WithScrimPaintForEveryone();
        sandbox.Variables["PATH"] = $"{sandbox["root", "usr", "local", "bin"]}:{sandbox["root", ".local", "bin"]}";
        var warning = """
            also installed for all users: scrim-paint 4.2.1
              its commands start the app in ~/root/usr/local/bin, which is first on PATH

            """;
        sandbox.Run("install", "scrim-paint@4.1.x", "gantry-plot", "--yes").ShouldEnd(0).Out.ShouldContain(warning);
        sandbox.Run("list").ShouldEnd(0).Out.ShouldBe("""
            3 apps, 0 outdated
            app          version  newer  follows  for        catalogue  kind         name         installed
            gantry-plot  2.1.0                    you        guild      desktop app  Gantry Plot   just now
            scrim-paint  4.1.2    4.2.1  @4.1.x   you        guild      desktop app  Scrim Paint   just now
            scrim-paint  4.2.1                    all users  guild      desktop app  Scrim Paint   just now
            for you: catalogues refreshed just now · for all users: catalogue refreshed just now

            """ + warning);
        sandbox.Run("list", "--json").ShouldEnd(0).Json.GetProperty("apps")
            .EnumerateArray()
            .Select(app => $"{app.GetProperty("id")} {app.GetProperty("scope")} {app.GetProperty("version")}")
            .ShouldBe(["gantry-plot user 2.1.0", "scrim-paint user 4.1.2", "scrim-paint all-users 4.2.1"]);
        var about = sandbox.Run("about", "scrim-paint").ShouldEnd(0).Out;
        about.ShouldContain("Installed for you is 4.1.2\n");
        about.ShouldContain("Installed for all users is 4.2.1\n");
        about.ShouldContain(warning);
        var json = sandbox.Run("about", "scrim-paint", "--json").ShouldEnd(0).Json;
        json.GetProperty("installed").GetProperty("scope").GetString().ShouldBe("user");
        json.GetProperty("installed_other").GetProperty("scope").GetString().ShouldBe("all-users");
        sandbox.Run("about", "scrim-paint", "gantry-plot").ShouldEnd(0).Out.ShouldContain("4.1.2, 4.2.1 for all users");
        var plan = sandbox.Run("upgrade", "--all-users", "--dry-run", "--json").ShouldEnd(0).Json;
        plan.GetProperty("scope").GetString().ShouldBe("all-users");
    }

    [Fact]
    public async Task Finding_looks_into_the_catalogues_for_all_users_too_and_says_so()
    {
        await using var sandbox = new Sandbox();
        sandbox.MakeImage();
        sandbox.Run("catalogue", "add", "--all-users", "guild", "guild").ShouldEnd(0);
        sandbox.Run("search", "scrim").ShouldPrint(0, """
            1 app
            app          version  catalogue            kind         what it is
            scrim-paint  4.2.1    guild for all users  desktop app  Scrim Paint: Paint backdrops and gauzes to scale
            catalogue refreshed just now
            next: acrate install --all-users scrim-paint
            """);
        var about = sandbox.Run("about", "scrim-paint").ShouldEnd(0);
        about.Out.ShouldContain("  catalogue      guild for all users\n");
        about.Out.ShouldEndWith("next: acrate install --all-users scrim-paint\n");
        sandbox.Run("install", "scrim-paint", "--yes").ShouldFail(3, """
            acrate: no app is called "scrim-paint"
              why: you have no catalogue of your own; those for all users are not asked: guild
              next: add --all-users to install from them
            """);
        sandbox.Run("catalogue", "add", "house", "house").ShouldEnd(0);
        var both = sandbox.Run("search", "prompt", "--json").ShouldEnd(0).Json;
        both.GetProperty("results").EnumerateArray()
            .Select(app => $"{app.GetProperty("id")} {app.GetProperty("catalogue")} {app.GetProperty("scope")}")
            .ShouldBe(["prompt-margin house user", "cue-ledger guild all-users"]);
        sandbox.Run("catalogue", "add", "guild", "guild").ShouldEnd(0);
        sandbox.Run("search", "scrim").ShouldEnd(0).Out.ShouldContain("scrim-paint  4.2.1    guild      desktop app");
        sandbox.Run("about", "scrim-paint").ShouldEnd(0).Out.ShouldContain("guild for all users  4.2.1 ");
    }

    [Fact]
    public async Task Records_of_everyone_that_cannot_be_read_do_not_keep_a_person_from_their_own()
    {
        await using var sandbox = WithScrimPaintForEveryone();
        foreach (var file in Directory.EnumerateFiles(sandbox["root", "var", "lib", "amber-crate"], "records.db*"))
            File.WriteAllText(file, new string('x', 5000));
        var run = sandbox.Run("install", "scrim-paint", "--yes");
        run.ShouldExitWith(0);
        run.Error.ShouldBe(
            "note: apps and catalogues for all users cannot be read: the records ~/root/var/lib/amber-crate/records.db cannot be "
                + "opened\n");
        sandbox.Run("list", "--all-users").ShouldFail(9, """
            acrate: the records ~/root/var/lib/amber-crate/records.db cannot be opened
              why: the database is damaged
              next: restore it from a copy. Without a copy: move it away with records.db-wal and records.db-shm, and add the catalogues again; acrate then takes up the apps that are installed
            """);
    }

    [Fact]
    public async Task What_is_on_for_everyone_can_be_read_by_everyone_whatever_its_archive_says()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.MakeImage();
        Directory.CreateDirectory(sandbox["private", "bin"]);
        File.WriteAllText(sandbox["private", "bin", "cue-ledger"], "#!/bin/sh\n");
        File.WriteAllText(sandbox["private", "notes"], "");
        File.SetUnixFileMode(sandbox["private", "bin", "cue-ledger"], Private | UnixFileMode.UserExecute);
        File.SetUnixFileMode(sandbox["private", "notes"], Private);
        File.SetUnixFileMode(sandbox["private", "bin"], Private | UnixFileMode.UserExecute);
        var archive = new MemoryStream();
        await System.Formats.Tar.TarFile.CreateFromDirectoryAsync(
            sandbox["private"], archive, includeBaseDirectory: true, TestContext.Current.CancellationToken);
        var packed = new MemoryStream();
        await using (var gzip = new System.IO.Compression.GZipStream(
            packed,
            System.IO.Compression.CompressionLevel.Fastest,
            leaveOpen: true)) await gzip.WriteAsync(archive.ToArray(), TestContext.Current.CancellationToken);
        sandbox.ReplaceArtifact("cue-ledger", packed.ToArray(), "tar.gz");
        var card = sandbox["guild", "cue-ledger.appcard.toml"];
        await File.WriteAllTextAsync(card, (await File.ReadAllTextAsync(card, TestContext.Current.CancellationToken)).Replace(
            "format = \"tar.gz\"", "format = \"tar.gz\"\nstrip = 1",
            StringComparison.Ordinal), TestContext.Current.CancellationToken);
        sandbox.Run("catalogue", "add", "--all-users", "guild", "guild").ShouldEnd(0);
        sandbox.Run("catalogue", "refresh").ShouldEnd(0);
        foreach (var (options, shelf, file, program) in new (string[], string, string, string)[]
        {
            // As root, everything must be readable for the user without rights who tries it.
            (["--yes"], sandbox["root", ".local", "share", "amber-crate", "shelf"],
                Environment.IsPrivilegedProcess ? "644" : "600", Environment.IsPrivilegedProcess ? "755" : "700"),
            (["--yes", "--all-users"], sandbox["root", "opt", "amber-crate", "shelf"], "644", "755"),
        })
        {
            sandbox.Run(["install", "cue-ledger", .. options]).ShouldEnd(0);
            var folder = Directory.GetDirectories(Path.Combine(shelf, "cue-ledger")).ShouldHaveSingleItem();
            Mode(Path.Combine(folder, "notes")).ShouldBe(file);
            Mode(Path.Combine(folder, "bin")).ShouldBe(program);
            Mode(Path.Combine(folder, "bin", "cue-ledger")).ShouldBe(program);
        }
    }

    [Fact]
    public async Task A_plan_that_was_shown_is_carried_out_by_its_digest_and_no_other()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.MakeImage();
        var shown = sandbox.Run("install", "scrim-paint", "cue-ledger", "--skip", "cue-ledger", "--dry-run", "--json")
            .ShouldEnd(0).Json.GetProperty("digest").GetString()!;
        sandbox.Run("install", "scrim-paint", "cue-ledger", "--as-shown", shown)
            .ShouldRefuse(4, "the plan has changed since it was shown");
        var refused = sandbox.Run("install", "scrim-paint@4.1.x", "--as-shown", shown);
        refused.ShouldExitWith(4);
        refused.Error.ShouldStartWith(
            "acrate: the plan has changed since it was shown\n  why: it was " + shown);
        sandbox.Run("list", "--json").ShouldEnd(0).Json.GetProperty("apps").GetArrayLength().ShouldBe(0);
        sandbox.Run("install", "scrim-paint", "--as-shown", "sha256:12").ShouldFail(2, """
            acrate: --as-shown "sha256:12" cannot be used
              why: expected sha256:DIGEST with 64 hexadecimal digits
            """);
        sandbox.Run("install", "scrim-paint", "--skip", "scrimpaint", "--dry-run").ShouldFail(3, """
            acrate: --skip names scrimpaint, which the plan does not have
              why: nothing has been changed
              next: name an app of the plan by its id; --dry-run shows them
            """);
        sandbox.Run("install", "scrim-paint", "cue-ledger", "--skip", "cue-ledger", "--as-shown", shown).ShouldPrint(0, """
            1 of 1  done       scrim-paint 4.2.1
            1 done.
            """);
    }

    private static string Mode(string path) => Convert.ToString((int)File.GetUnixFileMode(path), 8);

    private static Sandbox WithScrimPaintForEveryone()
    {
        var sandbox = Sandbox.WithCatalogues();
        sandbox.MakeImage();
        sandbox.Run("catalogue", "add", "--all-users", "guild", "guild").ShouldEnd(0);
        sandbox.Run("install", "--all-users", "scrim-paint", "--yes").ShouldEnd(0);
        return sandbox;
    }

    [Fact]
    public async Task Nobody_else_can_open_what_could_be_held_and_everybody_reads_a_copy()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.MakeImage();
        sandbox.Run("catalogue", "add", "--all-users", "guild", "guild").ShouldEnd(0);
        sandbox.Run("install", "--all-users", "cue-ledger@1.4.0", "--yes").ShouldEnd(0);
        foreach (var (folder, name) in new[] { ("lib", "records"), ("cache", "catalogues") })
        {
            var path = sandbox["root", "var", folder, "amber-crate", name];
            foreach (var ending in new[] { ".db", ".db-wal", ".db-shm" })
                File.GetUnixFileMode(path + ending).ShouldBe(UnixFileMode.UserRead | UnixFileMode.UserWrite, path + ending);
            (File.GetUnixFileMode(path + "-copy.db") & UnixFileMode.OtherRead).ShouldBe(UnixFileMode.OtherRead);
        }

        if (!Environment.IsPrivilegedProcess) return;
        sandbox.BecomeUser("23456");
        using (var own = System.Diagnostics.Process.Start("/bin/sh",
            ["-c", $"chown -R root:root {sandbox.Folder} && chmod 755 {sandbox.Folder}"]))
            await own.EndInTimeAsync();
        var seen = sandbox.Run("list", "--all-users", "--json");
        seen.ShouldExitWith(0);
        seen.Json.GetProperty("apps")[0].GetProperty("version").GetString().ShouldBe("1.4.0");
        sandbox.Run("search", "--all-users", "scrim").ShouldExitWith(0);
        sandbox.User = null;
        sandbox.Run("install", "--all-users", "cue-ledger@1.5.0", "--yes").ShouldExitWith(0);
        sandbox.User = "23456";
        sandbox.Run("list", "--all-users", "--json").Json.GetProperty("apps")[0].GetProperty("version").GetString()
            .ShouldBe("1.5.0");
    }
}
