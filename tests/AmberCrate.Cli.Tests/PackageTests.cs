using System.Text.RegularExpressions;

namespace AmberCrate.Cli.Tests;

/// <summary>The Debian package, by the judgement of Debian's own programs.</summary>
public sealed partial class PackageTests
{
    private const string SystemPath = "/usr/sbin:/usr/bin:/sbin:/bin";

    [Fact]
    public async Task It_is_in_order_and_leaves_nothing_behind_when_it_is_removed()
    {
        if (!File.Exists("/usr/bin/dpkg-deb")) Assert.Skip("dpkg-deb is not here");
        if (File.Exists(Path.ChangeExtension(Sandbox.Program, ".dll"))) Assert.Skip("this is not the native build");
        await using var sandbox = new Sandbox();
        sandbox.Variables["PATH"] = Environment.GetEnvironmentVariable("PATH")!;
        sandbox.Variables["ACRATE_PAGES"] = Path.Combine(AppContext.BaseDirectory, "AmberCrate.Pages.dll");
        sandbox.Variables["DPKG_DEB_COMPRESSOR_LEVEL"] = "0";
        sandbox.RunBy(Path.Combine(BuiltProgram.Repository, "eng", "package"), Sandbox.Program, sandbox["out"]).ShouldEnd(0);
        var package = Directory.GetFiles(sandbox["out"]).ShouldHaveSingleItem();
        if (File.Exists("/usr/bin/lintian")) sandbox.RunBy("/usr/bin/lintian", "--fail-on", "error", package).Out.ShouldBeEmpty();

        sandbox.Variables["PATH"] = SystemPath;
        var image = sandbox["image"];
        Directory.CreateDirectory(Path.Combine(image, "var", "lib", "dpkg", "info"));
        Directory.CreateDirectory(Path.Combine(image, "var", "lib", "dpkg", "updates"));
        File.WriteAllText(Path.Combine(image, "var", "lib", "dpkg", "status"), "");
        Dpkg("--install", package);
        sandbox.RunBy(Path.Combine(image, "usr", "bin", "acrate"), "--version").ShouldPrint(0, "acrate 0.1.0");
        foreach (var (file, shell) in new[]
        {
            ("bash-completion/completions/acrate", "bash"), ("zsh/vendor-completions/_acrate", "zsh"),
            ("fish/vendor_completions.d/acrate.fish", "fish"),
        })
            File.ReadAllText(Path.Combine(image, "usr", "share", file)).ShouldBe(
                sandbox.Run("completions", shell).ShouldEnd(0).Out);

        // Each setting in the file is one that counts as soon as the # is taken away.
        var settings = Path.Combine(image, "etc", "amber-crate", "acrate.toml");
        Origins().ShouldBe(["default"]);
        File.WriteAllText(settings, KeyInComment().Replace(File.ReadAllText(settings), "${line}"));
        Origins().ShouldBe(["file"]);

        Dpkg("--purge", "amber-crate");
        Directory.EnumerateFileSystemEntries(image, "*", SearchOption.AllDirectories)
            .Select(path => Path.GetRelativePath(image, path))
            .Where(path => !"var/lib/dpkg".StartsWith(path, StringComparison.Ordinal)
                && !path.StartsWith("var/lib/dpkg/", StringComparison.Ordinal))
            .ShouldBeEmpty();

        void Dpkg(params string[] arguments) => sandbox.RunBy(
            "/usr/bin/dpkg", [$"--root={image}", "--force-depends", "--force-not-root", "--log=/dev/null", .. arguments])
            .ShouldExitWith(0);

        IEnumerable<string?> Origins() => sandbox.Run("settings", "--all-users", "--root", image, "--json").ShouldEnd(0)
            .Json.GetProperty("settings").EnumerateArray()
            .Select(setting => setting.GetProperty("origin").GetString())
            .Distinct();
    }

    [GeneratedRegex("^# (?<line>[a-z_]+ = )", RegexOptions.Multiline | RegexOptions.NonBacktracking)]
    private static partial Regex KeyInComment();
}
