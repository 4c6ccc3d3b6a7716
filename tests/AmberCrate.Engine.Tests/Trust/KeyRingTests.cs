using System.Diagnostics;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Trust;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Trust;
using AmberCrate.Tests;

namespace AmberCrate.Engine.Tests.Trust;

public sealed class KeyRingTests : IDisposable
{
    private static readonly string[] s_files = [
        .. KeyRing.Names.SelectMany(name => new[] { $"{name}.pem", $"{name}.public.pem" })];

    private readonly TemporaryFolder _folder = new();

    public static TheoryData<string, int> Cuts() => new(
        new[] { TrustKey.Ecdsa, TrustKey.Ed25519 }
            .SelectMany(_ => Enumerable.Range(0, s_files.Length + 1), (type, files) => (type, files)));

    [Theory]
    [MemberData(nameof(Cuts))]
    public void Making_keys_that_was_cut_off_is_taken_up_and_keeps_the_keys_that_are_there(string type, int files)
    {
        var keys = new KeyRing(_folder["keys"], null);
        keys.MakeAll(type);
        CutOff(files);
        var before = Contents();
        keys.MakeAll(type).Select(made => made.Name).ShouldBe(KeyRing.Names);
        var after = Contents();
        after.Keys.Order().ShouldBe(s_files.Order());
        foreach (var (name, text) in before) after[name].ShouldBe(text);
        foreach (var name in KeyRing.Names)
            KeyFile.ReadPublic(_folder["keys", $"{name}.public.pem"]).Identity
                .ShouldBe(KeyFile.Open(_folder["keys", $"{name}.pem"], null).Key.Identity);
    }

    [Fact]
    public void Finished_keys_are_never_made_again_even_where_the_root_key_was_taken_away()
    {
        var keys = new KeyRing(_folder["keys"], null);
        keys.MakeAll(TrustKey.Ecdsa);
        File.Delete(_folder["keys", "root.pem"]);
        var before = Contents();
        Should.Throw<ProblemException>(() => keys.MakeAll(TrustKey.Ecdsa)).Problem.Code.ShouldBe(ProblemCode.Refused);
        Contents().ShouldBe(before);
    }

    [Theory]
    [InlineData("keys", ".root.pem.{0}.acrate-new", true)]
    [InlineData("keys", ".root.pem.{1}.acrate-new", false)]
    [InlineData("keys", ".root.pem.acrate-new", false)]
    [InlineData("keys", "root.pem.{0}.acrate-new", false)]
    [InlineData("site/signed", ".7.targets.json.{0}.acrate-new", true)]
    [InlineData("site", ".timestamp.json.{1}.acrate-new", false)]
    public void Only_what_a_dead_process_left_is_swept_by_the_next_command(string folder, string name, bool isSwept)
    {
        Directory.CreateDirectory(_folder[folder]);
        var file = Path.Combine(_folder[folder], string.Format(null, name, Dead(), Environment.ProcessId));
        File.WriteAllText(file, "secret");
        if (folder == "keys") new KeyRing(_folder["keys"], null).For(TrustRole.Snapshot);
        else PublicationLock.Acquire(_folder["site"]).Dispose();
        File.Exists(file).ShouldBe(!isSwept);
    }

    [Fact]
    public void Sweeping_a_published_folder_follows_no_links()
    {
        Directory.CreateDirectory(_folder["site", "parts"]);
        Directory.CreateDirectory(_folder["elsewhere"]);
        var outside = _folder["elsewhere", $".x.{Dead()}.acrate-new"];
        File.WriteAllText(outside, "");
        for (var link = 0; link < 3; link++) File.CreateSymbolicLink(_folder["site", "parts", $"up-{link}"], _folder["site"]);
        File.CreateSymbolicLink(_folder["site", "out"], _folder["elsewhere"]);
        PublicationLock.Acquire(_folder["site"]).Dispose();
        File.Exists(outside).ShouldBeTrue();
    }

    [Fact]
    public void A_work_folder_of_a_dead_process_is_swept_and_that_of_a_living_one_stays()
    {
        var (dead, alive) = (
            _folder[$"acrate-work-{Dead()}-cards-x1"], _folder[$"acrate-work-{Environment.ProcessId}-cards-x2"]);
        foreach (var folder in new[] { dead, alive, _folder["acrate-work-x"], _folder["other"] })
        {
            Directory.CreateDirectory(folder);
            File.WriteAllText(Path.Combine(folder, "file"), "");
        }

        WorkFolder.Sweep(_folder.Path);
        Directory.GetDirectories(_folder.Path).Select(Path.GetFileName).Order().ShouldBe(
            new[] { Path.GetFileName(alive), "acrate-work-x", "other" }.Order());
    }

    public void Dispose() => _folder.Dispose();

    /// <summary>Leaves what is there once so many files are written: the mark and the first files.</summary>
    private void CutOff(int files)
    {
        File.WriteAllText(_folder["keys", ".keys-are-being-made"], "");
        foreach (var file in s_files.Skip(files)) File.Delete(_folder["keys", file]);
        if (files < s_files.Length) File.WriteAllText(_folder["keys", $".{s_files[files]}.{Dead()}.acrate-new"], "half of a key");
    }

    private Dictionary<string, string> Contents() => Directory.EnumerateFiles(_folder["keys"])
        .Where(file => file.EndsWith(".pem", StringComparison.Ordinal))
        .ToDictionary(file => Path.GetFileName(file), File.ReadAllText);

    private static int Dead()
    {
        using var process = Process.Start("true");
        process.EndInTime();
        return process.Id;
    }
}
