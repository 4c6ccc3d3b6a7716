using System.Diagnostics;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Drafting;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Versions;
using AmberCrate.Engine.Drafting;
using AmberCrate.Engine.Publishing;
using AmberCrate.Playhouse;
using AmberCrate.Tests;

namespace AmberCrate.Engine.Tests.Drafting;

/// <summary>A maintainer's desk: cards from archives that other programs have packed, releases, checks, publishing.</summary>
public sealed class CardDeskTests : IDisposable
{
    private const string Menu = "[Desktop Entry]\nType=Application\nName=Scrim Paint\nComment=Paint backdrops\nExec=scrim %F\n";

    private readonly OperationStage _stage = new();

    public CardDeskTests() => Directory.CreateDirectory(_stage["cards", "files"]);

    public void Dispose() => _stage.Dispose();

    [Theory]
    [InlineData("scrim-4.2.tar", "tar -cf")]
    [InlineData("scrim-4.2.tar.gz", "tar -czf")]
    [InlineData("scrim-4.2.tar.xz", "tar -cJf")]
    [InlineData("scrim-4.2.zip", "zip -qr")]
    public async Task A_card_is_drafted_from_an_archive_passes_the_checks_and_is_published(string name, string packer)
    {
        Pack(name, packer, "scrim-4.2");
        var drafted = (await DraftAsync(name)).ShouldHaveSingleItem();
        drafted.Missing.ShouldBeEmpty();
        var draft = drafted.Draft;
        (draft.Id.Text, draft.Name, draft.Release.Version!.Text, draft.Release.Group.Together.StripFolders)
            .ShouldBe(("scrim", "Scrim Paint", "4.2", 1));
        draft.Placement.Commands.ShouldHaveSingleItem().Path.Text.ShouldBe("bin/scrim");
        (await FindingsAsync()).ShouldBeEmpty();
        await BuildAsync();
        File.Exists(_stage["site", "files", name]).ShouldBeTrue();
        (await Should.ThrowAsync<ProblemException>(() => DraftAsync(name))).Problem.Code.ShouldBe(ProblemCode.Refused);
    }

    [Theory]
    [InlineData("gz", "gzip -c")]
    [InlineData("zst", "zstd -qc")]
    [InlineData("xz", "xz -c")]
    [InlineData("bz2", "bzip2 -c")]
    public async Task A_program_that_is_only_compressed_is_one_command(string ending, string packer)
    {
        var name = $"scrim-4.2-linux-amd64.{ending}";
        Run("sh", "-c", $"{packer} /bin/true > {_stage["cards", "files", name]}");
        var draft = (await DraftAsync(name)).ShouldHaveSingleItem().Draft;
        CardWords.Formats.WordOf(draft.Release.Group.Together.Format).ShouldBe(ending);
        var command = draft.Placement.Commands.ShouldHaveSingleItem();
        (command.Name.Text, command.Path.Text).ShouldBe(("scrim", "scrim-4.2-linux-amd64"));
        draft.Release.Requirements!.ShouldContain(library => library.Name == "libc.so.6");
    }

    [Theory]
    [InlineData("scrim-4.2.gz", "echo notes | gzip -c", ArtifactFormat.File)]
    [InlineData("scrim-4.2.tgz", "echo notes | gzip -c", null)]
    [InlineData("scrim-4.2.xz", "tar -cJ -C / bin/true", ArtifactFormat.TarXz)]
    [InlineData("scrim-4.2.gz", "cat /bin/true | gzip -c | head -c 99", null)]
    public async Task What_is_compressed_decides_and_what_is_damaged_is_called_so(
        string name, string packer, ArtifactFormat? format)
    {
        Run("sh", "-c", $"{packer} > {_stage["cards", "files", name]}");
        if (format is { } known) (await DraftAsync(name))[0].Draft.Release.Group.Together.Format.ShouldBe(known);
        else
        {
            (await Should.ThrowAsync<ProblemException>(() => DraftAsync(name))).Problem.Remedy.ToString()!
                .ShouldContain("download the file again");
        }
    }

    [Fact]
    public async Task A_debian_package_tells_its_version_by_its_control_file()
    {
        var root = _stage["deb"];
        Tree(Path.Combine(root, "usr"));
        Directory.CreateDirectory(Path.Combine(root, "DEBIAN"));
        File.WriteAllText(
            Path.Combine(root, "DEBIAN", "control"),
            "Package: scrim\nVersion: 1:4.2-3\nArchitecture: all\nMaintainer: A <a@example>\nDepends: batten\n"
                + "Description: Paints\n Long\n .\n text\n");
        Run("dpkg-deb", "--root-owner-group", "-b", root, _stage["cards", "files", "lies_9.9_all.deb"]);
        var draft = (await DraftAsync("lies_9.9_all.deb"))[0].Draft;
        (draft.Id.Text, draft.Release.Version!.Text, draft.Description).ShouldBe(("scrim", "4.2-3", "Long\n\ntext"));
        draft.Release.Requirements.ShouldHaveSingleItem().Deb.ShouldHaveSingleItem().Name.ShouldBe("batten");
        (await FindingsAsync()).ShouldBeEmpty();
    }

    [Theory]
    [InlineData("a.desktop", "Type=Application")]
    [InlineData("a.desktop", "[Desktop Entry]\nType=Application\nName=Caf\u00e9\nExec=scrim\n")]
    [InlineData("usr/share/metainfo/a.metainfo.xml", "<component><id>&lol;</id></component>")]
    [InlineData("usr/share/metainfo/a.metainfo.xml", "no xml at all")]
    public async Task Faulty_entries_and_metainfo_are_told_and_do_no_harm(string path, string text)
    {
        var tree = _stage["packed", "scrim-4.2"];
        Tree(tree);
        Directory.CreateDirectory(Path.GetDirectoryName(Path.Combine(tree, path))!);
        File.WriteAllBytes(Path.Combine(tree, path), System.Text.Encoding.Latin1.GetBytes(text));
        Run("tar", "-czf", _stage["cards", "files", "s.tar.gz"], "-C", _stage["packed"], "scrim-4.2");
        var draft = (await DraftAsync("s.tar.gz"))[0].Draft;
        if (path.EndsWith(".xml", StringComparison.Ordinal) || text.Contains('\u00e9'))
            draft.Questions.ShouldContain(question => question.Contains(Path.GetFileName(path), StringComparison.Ordinal));
        draft.Placement.Commands.ShouldHaveSingleItem();
    }

    [Fact]
    public async Task Links_to_folders_are_not_followed()
    {
        var tree = _stage["packed", "scrim-4.2"];
        Tree(tree);
        for (var at = 0; at < 3; at++) Directory.CreateSymbolicLink(Path.Combine(tree, $"round{at}"), ".");
        Run("tar", "-czf", _stage["cards", "files", "scrim-4.2.tar.gz"], "-C", _stage["packed"], "scrim-4.2");
        var draft = (await DraftAsync("scrim-4.2.tar.gz"))[0].Draft;
        draft.Release.Group.Together.Files.Count(file => file.Name == "scrim").ShouldBe(1);
        (await FindingsAsync()).ShouldBeEmpty();
    }

    [Theory]
    [InlineData("a pipe", "a.desktop i 644 0 0 f")]
    [InlineData("a device", "a.desktop c 666 0 0 1 5")]
    [InlineData("a link to the host", "a.desktop s 777 0 0 /etc/passwd")]
    [InlineData("a folder that is a link", "usr d 755 0 0\nusr/share d 755 0 0\nusr/share/metainfo s 777 0 0 /etc")]
    [InlineData("an entry of 20 MB", "z.desktop f 644 0 0 head -c 20000000 /dev/urandom", "Not all files")]
    public async Task An_appimage_may_hold_anything(string what, string definition, string? told = null)
    {
        var draft = await DraftAppImageAsync(definition, _ => { });
        (draft.Id.Text, draft.Name).ShouldBe(("scrim", "Scrim Paint"), what);
        if (told is not null) draft.Questions.ShouldContain(question => question.Contains(told, StringComparison.Ordinal));
    }

    [Fact]
    public async Task A_broken_appimage_is_known_by_its_name()
    {
        var draft = await DraftAppImageAsync("AppRun f 755 0 0 true", file => Array.Fill(file, (byte)0xff, 128 + 64, 8));
        draft.Id.Text.ShouldBe("scrim-paint");
        draft.Questions.ShouldContain(question =>
            question.StartsWith("The files in the AppImage were not read (unsquashfs: ", StringComparison.Ordinal));
    }

    [Theory]
    [InlineData("scrim.7z.001", true)]
    [InlineData("scrim.tar.gz.002", true)]
    [InlineData("scrim.z01", true)]
    [InlineData("Scrim.part12.RAR", true)]
    [InlineData("scrim-4.2.001", false)]
    [InlineData("scrim.part", false)]
    public async Task A_part_of_a_split_archive_is_called_that(string name, bool isPart)
    {
        await File.WriteAllBytesAsync(_stage["cards", "files", name], [(byte)'7', (byte)'z', 0xBC, 0xAF, 0x27, 0x1C, 1, 2]);
        var result = await DraftAllAsync(_stage["cards", "files", name]);
        (result.Failed is [{ Problem.What: var what }] && what == $"{name} is one part of a split archive").ShouldBe(isPart);
    }

    [Fact]
    public async Task A_java_archive_stays_one_file()
    {
        Pack("scrim-4.2.zip", "zip -qr", "scrim-4.2");
        File.Move(_stage["cards", "files", "scrim-4.2.zip"], _stage["cards", "files", "scrim-4.2.jar"]);
        var draft = (await DraftAsync("scrim-4.2.jar"))[0].Draft;
        (draft.Release.Group.Together.Format, draft.Release.Group.Together.StripFolders).ShouldBe((ArtifactFormat.File, 0));
        draft.Questions.ShouldContain(
            "scrim-4.2.jar is a Java archive: the card places the file as it is. Which app brings Java to start it?");
    }

    [Theory]
    [InlineData("http://")]
    [InlineData("https://[")]
    public async Task What_is_no_address_is_refused(string place) =>
        (await DraftAllAsync(place)).Failed.ShouldHaveSingleItem().Problem.Code.ShouldBe(ProblemCode.BadCommandLine);

    [Fact]
    public async Task Files_of_one_app_make_one_card_and_what_fails_does_not_stop_the_others()
    {
        Pack("scrim-4.2.tar.gz", "tar -czf", "scrim-4.2");
        Pack("scrim-4.10.tar.gz", "tar -czf", "scrim-4.10");
        string[] files = [.. new[] { "scrim-4.2.tar.gz", "missing.tar.gz", "scrim-4.10.tar.gz" }
            .Select(name => _stage["cards", "files", name])];
        var result = await DraftAllAsync(files);
        result.Failed.ShouldHaveSingleItem().Problem.Code.ShouldBe(ProblemCode.NothingMatched);
        result.Cards.ShouldHaveSingleItem().Sources.Select(parts => parts.ShouldHaveSingleItem())
            .ShouldBe([files[2], files[0]], "the newest first");
        var text = File.ReadAllText(_stage["cards", "scrim.appcard.toml"]);
        System.Text.RegularExpressions.Regex.Count(text, "(?m)^version = \"4\\.").ShouldBe(2);
        (await FindingsAsync()).ShouldBeEmpty();
        (await DraftAllAsync(files[0])).Failed.ShouldHaveSingleItem().Problem.Code.ShouldBe(ProblemCode.Refused);
        File.ReadAllText(_stage["cards", "scrim.appcard.toml"]).ShouldBe(text);
    }

    [Fact]
    public async Task A_release_is_added_and_its_file_checked()
    {
        Pack("scrim-4.2.tar.gz", "tar -czf", "scrim-4.2");
        await DraftAsync("scrim-4.2.tar.gz");
        Pack("scrim-4.3.tar.gz", "tar -czf", "scrim-4.3");
        await ReleaseAsync("scrim-4.3.tar.gz", null);
        (await FindingsAsync()).ShouldBeEmpty();
        (await Should.ThrowAsync<ProblemException>(() => ReleaseAsync("scrim-4.3.tar.gz", null)))
            .Problem.Code.ShouldBe(ProblemCode.Refused);
        (await Should.ThrowAsync<ProblemException>(() => ReleaseAsync("scrim-4.3.tar.gz", "5.0", fromMetainfo: true)))
            .Problem.Code.ShouldBe(ProblemCode.NothingMatched);
        File.AppendAllText(_stage["cards", "files", "scrim-4.3.tar.gz"], "more");
        (await FindingsAsync()).ShouldHaveSingleItem().ShouldContain("download_size");
        (await Should.ThrowAsync<ProblemException>(BuildAsync)).Problem.Code.ShouldBe(ProblemCode.NotVerified);
        File.Exists(_stage["site", "catalogue.json"]).ShouldBeFalse();
    }

    [Theory]
    [InlineData("path = \"bin/scrim\"", "path = \"bin/other\"", "4.2 has no file bin/other")]
    [InlineData("summary = ", "needs = [\"scrim\"]\nsummary = ", "it needs itself")]
    [InlineData("summary = ", "needs = [\"gone\"]\nsummary = ", "gone is not in this catalogue")]
    [InlineData("summary = ", "project_license = \"GPLv3\"\nsummary = ", "did you mean GPL-3.0-only")]
    [InlineData("summary = ", "categories = [\"Grafics\"]\nsummary = ", "did you mean Graphics?")]
    [InlineData("version = \"4.2\"", "version = \"v4.2\"", "write \"4.2\"")]
    [InlineData("strip = 1", "strip = 0", "4.2 has no file bin/scrim")]
    public async Task Mistakes_in_a_card_are_found(string before, string after, string says)
    {
        Pack("scrim-4.2.tar.gz", "tar -czf", "scrim-4.2");
        var card = (await DraftAsync("scrim-4.2.tar.gz"))[0].Card;
        var text = File.ReadAllText(card);
        text.ShouldContain(before);
        File.WriteAllText(card, text.Replace(before, after));
        (await FindingsAsync()).ShouldContain(finding => finding.Contains(says, StringComparison.Ordinal));
    }

    [Fact]
    public async Task Apps_that_need_each_other_are_found()
    {
        Pack("scrim-4.2.tar.gz", "tar -czf", "scrim-4.2");
        var card = (await DraftAsync("scrim-4.2.tar.gz"))[0].Card;
        var text = File.ReadAllText(card);
        File.WriteAllText(card, text.Replace("summary = ", "needs = [\"gauze\"]\nsummary = "));
        File.WriteAllText(
            _stage["cards", "gauze.appcard.toml"],
            text.Replace("id = \"scrim\"", "id = \"gauze\"").Replace("summary = ", "needs = [\"scrim\"]\nsummary = "));
        (await FindingsAsync()).Count(finding => finding.Contains("needs itself in the end", StringComparison.Ordinal))
            .ShouldBe(2);
    }

    [Fact]
    public async Task Files_that_no_card_names_are_removed_one_publication_later()
    {
        Pack("scrim-4.2.tar.gz", "tar -czf", "scrim-4.2");
        var card = (await DraftAsync("scrim-4.2.tar.gz"))[0].Card;
        await BuildAsync();
        File.WriteAllText(_stage["site", "files", "others.txt"], "theirs");
        Pack("scrim-4.3.tar.gz", "tar -czf", "scrim-4.3");
        File.Delete(card);
        await DraftAsync("scrim-4.3.tar.gz");
        (await BuildAsync()).Pruned.ShouldBeEmpty();
        File.Exists(_stage["site", "files", "scrim-4.2.tar.gz"]).ShouldBeTrue();
        (await BuildAsync()).Pruned.ShouldBe(["files/scrim-4.2.tar.gz"]);
        Directory.EnumerateFiles(_stage["site", "files"]).Select(Path.GetFileName).Order()
            .ShouldBe(["others.txt", "scrim-4.3.tar.gz"]);
    }

    [Fact]
    public async Task Popularity_is_counted_from_exports_and_stays_until_it_is_counted_again()
    {
        Pack("scrim-4.2.tar.gz", "tar -czf", "scrim-4.2");
        await DraftAsync("scrim-4.2.tar.gz");
        Directory.CreateDirectory(_stage["exports"]);
        foreach (var (name, app) in new[] { ("a", "scrim"), ("b", "scrim"), ("c", "other") })
            File.WriteAllText(_stage["exports", $"{name}.bundle.toml"], $"bundle = 1\n[[apps]]\nreference = \"{app}\"\n");
        var counted = (await BuildAsync(_stage["exports"])).Document.Popularity.ShouldNotBeNull();
        (counted.Machines, counted.Apps.ShouldHaveSingleItem()).ShouldBe((3, new KeyValuePair<string, int>("scrim", 2)));
        (await BuildAsync()).Document.Popularity!.Machines.ShouldBe(3);
        File.WriteAllText(_stage["exports", "d.bundle.toml"], "nonsense");
        (await Should.ThrowAsync<ProblemException>(() => BuildAsync(_stage["exports"])))
            .Problem.Code.ShouldBe(ProblemCode.NotVerified);
    }

    [Fact]
    public async Task An_address_is_drafted_and_asked_again_by_the_check()
    {
        Pack("scrim-4.2.tar.gz", "tar -czf", "scrim-4.2");
        await using var server = await StaticServer.StartAsync(_stage["cards", "files"]);
        var address = new Uri(server.Address, "scrim-4.2.tar.gz").AbsoluteUri;
        var draft = (await DraftAllAsync(address)).Cards[0];
        (draft.Draft.Release.Group.Files[0].Location, draft.Elsewhere.Count).ShouldBe((address, 0));
        (await FindingsAsync(isReaching: true)).ShouldBeEmpty();
        server.Faults["scrim-4.2.tar.gz"] = new ServerFault.OtherBytes();
        (await FindingsAsync(isReaching: true)).ShouldHaveSingleItem().ShouldContain(address);
        server.Faults["scrim-4.2.tar.gz"] = new ServerFault.Status(404);
        (await FindingsAsync(isReaching: true)).ShouldHaveSingleItem().ShouldContain(address);
        (await FindingsAsync()).ShouldBeEmpty();
    }

    [Fact]
    public async Task A_download_that_is_cut_short_makes_no_card()
    {
        Pack("scrim-4.2.tar.gz", "tar -czf", "scrim-4.2");
        await using var server = await StaticServer.StartAsync(_stage["cards", "files"]);
        server.Faults["scrim-4.2.tar.gz"] = new ServerFault.CutShort();
        var address = new Uri(server.Address, "scrim-4.2.tar.gz").AbsoluteUri;
        (await DraftAllAsync(address)).Failed.ShouldHaveSingleItem().Problem.Code.ShouldBe(ProblemCode.Unreachable);
        Directory.EnumerateFiles(_stage["cards"], "*.toml").ShouldBeEmpty();
    }

    /// <summary>Drafts the card of a file; throws what went wrong.</summary>
    private async Task<IReadOnlyList<DraftResult>> DraftAsync(string name)
    {
        var result = await DraftAllAsync(_stage["cards", "files", name]);
        return result.Failed.Count == 0 ? result.Cards : throw result.Failed[0].Problem.ToException();
    }

    private Task<DraftsResult> DraftAllAsync(params string[] files) =>
        new DraftCard(_stage.Session()).RunAsync(files, _stage["cards"], default);

    private Task<ReleaseResult> ReleaseAsync(string name, string? version, bool fromMetainfo = false) =>
        new ReleaseCard(_stage.Session()).RunAsync(
            new ReleaseRequest(
                _stage["cards", "scrim.appcard.toml"], [_stage["cards", "files", name]],
                version is null ? null : AppVersion.Parse(version), null, fromMetainfo),
            default);

    private Task<PublishResult> BuildAsync() => BuildAsync(null);

    private Task<PublishResult> BuildAsync(string? exports) => new BuildCatalogue(_stage.Session().Host).RunAsync(
        new BuildRequest(_stage["cards"], _stage["site"], WithArtifacts: true, IsFull: false, exports, IsPruning: true), default);

    private async Task<IReadOnlyList<string>> FindingsAsync(bool isReaching = false) =>
        [.. (await new CheckCards(_stage.Session())
                .RunAsync(new CheckCardsRequest([_stage["cards"]], null, isReaching), default))
            .Findings.Select(finding => $"{finding.Key} {finding.Message}")];

    private void Pack(string name, string packer, string top)
    {
        Tree(_stage["packed", top]);
        var words = packer.Split(' ');
        Run(words[0], [words[1], _stage["cards", "files", name], top], _stage["packed"]);
    }

    /// <summary>Drafts the card of an AppImage.</summary>
    /// <param name="definition">What it holds besides a menu entry, as mksquashfs takes it.</param>
    /// <param name="harm">Does something to its bytes.</param>
    private async Task<CardDraft> DraftAppImageAsync(string definition, Action<byte[]> harm)
    {
        var (tree, packed, list) = (_stage["tree"], _stage["packed"], _stage["definition"]);
        Directory.CreateDirectory(tree);
        File.WriteAllText(Path.Combine(tree, "scrim.desktop"), Menu);
        File.WriteAllText(list, definition + "\n");
        Run("mksquashfs", tree, packed, "-noappend", "-quiet", "-no-progress", "-all-root", "-pf", list);

        // The smallest program: its header, and a table of one section behind it.
        var head = new byte[128];
        new byte[] { 0x7f, (byte)'E', (byte)'L', (byte)'F', 2, 1, 1, 0, (byte)'A', (byte)'I', 2 }.CopyTo(head, 0);
        (head[16], head[18], head[20], head[40], head[52], head[58], head[60]) = (2, 62, 1, 64, 64, 64, 1);
        byte[] file = [.. head, .. await File.ReadAllBytesAsync(packed)];
        harm(file);
        var path = _stage["cards", "files", "Scrim_Paint-4.2-x86_64.AppImage"];
        await File.WriteAllBytesAsync(path, file);
        File.SetUnixFileMode(path, (UnixFileMode)0b111_101_101);
        return (await DraftAsync(Path.GetFileName(path)))[0].Draft;
    }

    private static void Tree(string folder)
    {
        Directory.CreateDirectory(Path.Combine(folder, "bin"));
        Directory.CreateDirectory(Path.Combine(folder, "share", "applications"));
        File.WriteAllText(Path.Combine(folder, "bin", "scrim"), "#!/bin/sh\necho scrim\n");
        File.SetUnixFileMode(Path.Combine(folder, "bin", "scrim"), (UnixFileMode)0b111_101_101);
        File.WriteAllText(Path.Combine(folder, "share", "applications", "scrim.desktop"), Menu);
    }

    private static void Run(string program, params string[] arguments) => Run(program, arguments, null);

    private static void Run(string program, string[] arguments, string? folder)
    {
        using var process = Process.Start(new ProcessStartInfo(program, arguments)
        {
            WorkingDirectory = folder ?? "/", RedirectStandardOutput = true, UseShellExecute = false,
        })!;
        process.EndInTime();
        process.ExitCode.ShouldBe(0);
    }
}
