namespace AmberCrate.Cli.Tests;

/// <summary>A process that ends in the middle, wherever that is, leaves a machine that the next command puts in order.</summary>
public sealed class SuddenEndTests
{
    private const int MostSteps = 200, ReadEvery = 5;

    public static TheoryData<string> Changes =>
        new("install cue-ledger gantry-plot --yes", "upgrade --yes", "uninstall scrim-paint cue-ledger --yes");

    [Theory]
    [MemberData(nameof(Changes))]
    public async Task Every_step_of_a_change_may_be_the_last(string change)
    {
        await using var sandbox = Sandbox.WithCatalogues();
        if (!change.StartsWith("install cue", StringComparison.Ordinal))
            sandbox.Run("install", "cue-ledger", "scrim-paint", "--yes").ShouldEnd(0);
        sandbox.PublishLater();
        sandbox.Run("catalogue", "refresh").ShouldEnd(0);
        var words = change.Split(' ');
        Copy(sandbox["root"], sandbox["as-it-was"]);
        sandbox.Run(words).ShouldEnd(0);
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
                sandbox.Run(words).ShouldEnd(0);
                seen = Seen(sandbox, "root");
            }

            seen.ShouldBe(after, $"step {step}");
        }

        throw new InvalidOperationException("the change never came to its end");
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
