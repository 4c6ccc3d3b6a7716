namespace AmberCrate.Cli.Tests;

/// <summary>A process that ends in the middle, wherever that is, leaves a machine that the next command puts in order.</summary>
public sealed class SuddenEndTests
{
    private const int MostSteps = 200, ReadEvery = 5;

    public static TheoryData<string> Changes =>
        new(
            "install cue-ledger gantry-plot --yes", "upgrade --yes", "uninstall scrim-paint cue-ledger --yes",
            "equip ~/frame.amberkit --yes --offline --unsigned");

    [Theory]
    [MemberData(nameof(Changes))]
    public async Task Every_step_of_a_change_may_be_the_last(string change)
    {
        await using var sandbox = Sandbox.WithCatalogues();
        if (change.StartsWith("equip", StringComparison.Ordinal))
        {
            File.WriteAllText(
                sandbox["frame.bundle.toml"],
                "bundle = 1\n[[apps]]\nreference = \"guild:cue-ledger\"\n[[apps]]\nreference = \"guild:gantry-plot\"\n");
            sandbox.Run("kit", "make", "frame.bundle.toml", "-o", "frame.amberkit").ShouldEnd(0);
        }
        else if (!change.StartsWith("install cue", StringComparison.Ordinal))
            sandbox.Run("install", "cue-ledger", "scrim-paint", "--yes").ShouldEnd(0);
        sandbox.PublishLater();
        sandbox.Run("catalogue", "refresh").ShouldEnd(0);
        var words = change.Replace("~", sandbox.Folder, StringComparison.Ordinal).Split(' ');
        Copy(sandbox["root"], sandbox["as-it-was"]);
        sandbox.Run(words).ShouldExitWith(0);
        var (after, before) = (Seen(sandbox, "root"), Seen(sandbox, "as-it-was"));
        for (var step = 1; step < MostSteps; step++)
        {
            Directory.Delete(sandbox["root"], recursive: true);
            Copy(sandbox["as-it-was"], sandbox["root"]);
            sandbox.Variables["ACRATE_END_AT_STEP"] = $"{step}";
            var result = sandbox.Run(words);
            sandbox.Variables.Remove("ACRATE_END_AT_STEP");
            if (result.ExitCode == 0)
            {
                step.ShouldBeGreaterThan(6, "the steps are counted");
                return;
            }

            result.ShouldExitWith(137);

            // Whatever reads in between sees each app whole, either way.
            if (step % ReadEvery == 0) sandbox.Run("list").ShouldEnd(0);

            // The next that writes puts in order what was cut off, and says so where it was in the middle of an app.
            var next = sandbox.Run("retry", "--yes");
            next.ShouldExitWith(0);
            if (next.Error.Length > 0) next.Error.ShouldMatch(
                "^(note: an earlier run was cut off; [a-z-]+ has been put back as it was\n)+$", $"step {step}");
            var seen = Seen(sandbox, "root");
            if (next.Out.StartsWith("No run has left anything", StringComparison.Ordinal) && seen.SequenceEqual(before))
            {
                sandbox.Run(words).ShouldExitWith(0);
                seen = Seen(sandbox, "root");
            }

            seen.ShouldBe(after, $"step {step}");
        }

        throw new InvalidOperationException("the change never came to its end");
    }

    [Theory]
    [InlineData("upgrade")]
    [InlineData("uninstall")]
    public async Task An_app_that_cannot_be_put_back_is_named_and_does_not_keep_the_others(string way)
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Run("install", "scrim-paint@4.1.x", "--yes").ShouldEnd(0);
        Copy(sandbox["root"], sandbox["as-it-was"]);
        var front = new FileInfo(sandbox["root", ".local", "share", "amber-crate", "front", "scrim-paint"]);
        for (var step = 1; front.LinkTarget?.EndsWith("4.2.1+any", StringComparison.Ordinal) != true; step++)
        {
            step.ShouldBeLessThan(MostSteps);
            Directory.Delete(sandbox["root"], recursive: true);
            Copy(sandbox["as-it-was"], sandbox["root"]);
            sandbox.Variables["ACRATE_END_AT_STEP"] = $"{step}";
            sandbox.Run("install", "scrim-paint@4.2.x", "--yes").ShouldExitWith(137);
            front.Refresh();
        }

        sandbox.Variables.Remove("ACRATE_END_AT_STEP");
        var icons = sandbox["root", ".local", "share", "icons", "hicolor", "scalable", "apps"];
        Directory.Delete(icons, recursive: true);
        File.WriteAllText(icons, "");
        const string stuck = "scrim-paint is in the middle of a change and could not be put back as it was";
        var others = sandbox.Run("install", "cue-ledger", "--yes");
        others.ShouldExitWith(0);
        others.Error.ShouldStartWith($"note: {stuck}: ");
        others.Error.ShouldContain("remove the cause and run the command again, or: acrate uninstall scrim-paint\n");
        if (way == "uninstall")
        {
            sandbox.Run("uninstall", "scrim-paint", "--yes").ShouldExitWith(0);
            File.Delete(icons);
            sandbox.Run("uninstall", "cue-ledger", "--yes").ShouldEnd(0);
            sandbox.Tree("root").ShouldBeEmpty();
            return;
        }

        var again = sandbox.Run("upgrade", "scrim-paint", "--yes");
        again.Out.ShouldNotContain("done");
        File.Delete(icons);
        sandbox.Run("install", "scrim-paint@4.2.x", "--yes").ShouldExitWith(0).Error.ShouldBe(
            "note: an earlier run was cut off; scrim-paint has been put back as it was\n");
        sandbox.RunInstalled("scrim-paint", "--version").ShouldBe("Scrim Paint 4.2.1\n");
    }

    [Fact]
    public async Task Closed_standard_descriptors_do_no_harm()
    {
        // The ordinary build's runtime has opened files of its own in their place before the program begins.
        if (File.Exists(Path.ChangeExtension(Sandbox.Program, ".dll"))) Assert.Skip("this is not the native build");
        await using var sandbox = Sandbox.WithCatalogues();
        foreach (var closed in new[] { "<&-", ">&-", "2>&-", "<&- >&- 2>&-" })
        {
            var shell = sandbox.RunBy("/bin/sh", "-c", $"{Sandbox.Program} install cue-ledger --yes {closed}");
            shell.ShouldExitWith(0);
            sandbox.RunInstalled("cue-ledger", "--version").ShouldBe("Cue Ledger 1.5.0\n");
            sandbox.Run("uninstall", "cue-ledger", "--yes").ShouldEnd(0);
        }
    }

    /// <summary>What is placed, in front and on the shelf; old versions may stay on the shelf.</summary>
    private static List<string> Seen(Sandbox sandbox, string root) => [.. sandbox.Tree(root).Where(path =>
        !path.Contains("/shelf/", StringComparison.Ordinal) || File.Exists(sandbox[root, path]) && IsLive(sandbox, root, path))];

    private static bool IsLive(Sandbox sandbox, string root, string path)
    {
        var parts = path.Split('/');
        var at = Array.IndexOf(parts, "shelf");
        return new FileInfo(sandbox[root, ".local", "share", "amber-crate", "front", parts[at + 1]]).LinkTarget?.EndsWith(
            parts[at + 2], StringComparison.Ordinal) == true;
    }

    private static void Copy(string from, string to)
    {
        Directory.CreateDirectory(to);
        foreach (var path in Directory.EnumerateFileSystemEntries(from))
        {
            var target = Path.Combine(to, Path.GetFileName(path));
            if (new FileInfo(path).LinkTarget is { } link) File.CreateSymbolicLink(target, link);
            else if (Directory.Exists(path)) Copy(path, target);
            else File.Copy(path, target);
        }
    }
}
