using System.Diagnostics;
using System.Globalization;
using System.Text;
using System.Text.Json;
using AmberCrate.Core.Bundles;
using AmberCrate.Core.CardFiles;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Drafting;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Toml;
using AmberCrate.Core.Trust;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Archives;
using AmberCrate.Engine.BundleFiles;
using AmberCrate.Engine.Decoding;
using AmberCrate.Engine.Drafting;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.KitFiles;
using AmberCrate.Engine.Observing;
using AmberCrate.Engine.Tests.Archives;
using AmberCrate.Engine.Trust;
using AmberCrate.Tests.Kits;

namespace AmberCrate.Engine.Tests.Fuzz;

/// <summary>
/// Every reader of what others have written, with thousands of changed files: it says what is wrong, in time, within memory. The
/// seeds are in tests/corpus. The variable ACRATE_FUZZ sets how many changes of each are tried; 150 by itself.
/// ACRATE_FUZZ_READERS names the readers, with blanks between them; all by itself.
/// </summary>
[Collection(nameof(Alone))]
public sealed class FuzzTests : IDisposable
{
    private static readonly int Count =
        int.TryParse(Environment.GetEnvironmentVariable("ACRATE_FUZZ"), CultureInfo.InvariantCulture, out var count) ? count
            : 150;

    private static readonly TimeSpan MostTime = TimeSpan.FromSeconds(60);
    private const long MostMemory = 256 << 20;

    private readonly UnpackingStage _stage = new();
    private readonly TemporaryFolder _folder = new();

    private static readonly string[] s_readers =
    [
        "tar", "tar.gz", "tar.xz", "tar.zst", "tar.bz2", "zip", "7z", "deb", "toml", "card", "bundle", "line", "entry", "elf",
        "desktop", "packages", "record", "kit", "kit-layers", "metadata", "metainfo", "export", "squashfs",
    ];

    public static TheoryData<string> Readers =>
        new(Environment.GetEnvironmentVariable("ACRATE_FUZZ_READERS")?.Split(' ') ?? s_readers);

    [Theory]
    [MemberData(nameof(Readers))]
    public async Task A_reader_survives_what_is_changed(string reader)
    {
        var worst = (Memory: 0L, Time: TimeSpan.Zero);
        foreach (var (name, seed) in Seeds(reader))
        {
            for (var number = -1; number < Count; number++)
            {
                var bytes = number < 0 ? seed : reader == "kit-layers" ? WithChangedLayer(seed, number)
                    : Mutations.Of(seed, number);
                var what = $"{reader}/{name}, change {number}";
                var (begun, before) = (Stopwatch.GetTimestamp(), GC.GetTotalAllocatedBytes());
                try
                {
                    await ReadAsync(reader, bytes);
                }
                catch (Exception said) when (said is ProblemException or MalformedException or TrustException
                    or InvalidDataException
                    or EndOfStreamException or RefusedEntryException or UnsupportedArchiveException)
                {
                    // That is what it is for.
                }
                catch (Exception fault)
                {
                    throw new InvalidOperationException($"{what}: {fault.GetType().Name}", fault);
                }

                var took = Stopwatch.GetElapsedTime(begun);
                var memory = GC.GetTotalAllocatedBytes() - before;
                took.ShouldBeLessThan(MostTime, what);
                memory.ShouldBeLessThan(MostMemory, what);
                worst = (Math.Max(worst.Memory, memory), took > worst.Time ? took : worst.Time);
            }
        }

        TestContext.Current.TestOutputHelper?.WriteLine(
            $"{reader}: at most {worst.Memory >> 20} MiB and {worst.Time.TotalMilliseconds:0} ms");
    }

    public void Dispose()
    {
        _stage.Dispose();
        _folder.Dispose();
    }

    private static IEnumerable<(string Name, byte[] Bytes)> Seeds(string reader)
    {
        if (reader == "packages") return [("status", [.. "Package: libgauze2\nStatus: install ok installed\n\nPackage: x\n"u8])];
        var corpus = Path.Combine(Repository.Folder, "tests", "corpus");
        if (reader == "line")
            return Directory.EnumerateFiles(Path.Combine(corpus, "card")).Select(
                file => (Path.GetFileName(file), CardJson.Write(CardReader.Read(File.ReadAllText(file), "card", [])!)));
        if (reader == "record") return [("app", Encoding.UTF8.GetBytes(InstalledAppJson.Write(Sample)))];
        return Directory.EnumerateFiles(Path.Combine(corpus, reader == "kit-layers" ? "kit" : reader))
            .Order(StringComparer.Ordinal)
            .Select(file => (Path.GetFileName(file), File.ReadAllBytes(file)));
    }

    private static InstalledApp Sample => new()
    {
        Id = AppId.Parse("scrim-paint"), Name = "Scrim Paint", Kind = AppKind.DesktopApp,
        Version = Core.Versions.AppVersion.Parse("4.2.0"), Architecture = "any", Line = Core.Versions.ReleaseLine.Stable,
        Released = new DateOnly(2026, 5, 1), Catalogue = CatalogueName.Parse("guild"), InstalledAt = DateTimeOffset.UnixEpoch,
        Source = "https://files.stagecraft-guild.example/a", Sha256 = Sha256Digest.FromBytes(new byte[32]),
        Placed = [new PlacedItem(PlaceKind.Command, "scrim-paint", InsidePath.Parse("bin/scrim-paint"), null)],
    };

    private async Task ReadAsync(string reader, byte[] bytes)
    {
        switch (reader)
        {
            case "tar":
                foreach (var entry in TarEntries.Read(new MemoryStream(bytes))) entry.Content?.CopyTo(Stream.Null);
                break;
            case "toml":
                TomlText.Read(Encoding.UTF8.GetString(bytes), "a.toml", []);
                break;
            case "card":
                CardReader.Read(Encoding.UTF8.GetString(bytes), "a.toml", []);
                break;
            case "bundle":
                BundleReader.Read(Encoding.UTF8.GetString(bytes), "a.toml", []);
                break;
            case "line":
                CatalogueLine.Read(bytes);
                break;
            case "entry":
                CatalogueDocument.Read(bytes);
                break;
            case "record":
                InstalledAppJson.Read(Encoding.UTF8.GetString(bytes));
                break;
            case "elf":
                await File.WriteAllBytesAsync(_folder["elf"], bytes);
                ElfFile.Read(_folder["elf"]);
                LoaderCache.Read(bytes);
                break;
            case "desktop":
                var text = Encoding.UTF8.GetString(bytes);
                _ = DesktopEntryText.Faults(text).Count();
                break;
            case "packages":
                Directory.CreateDirectory(_folder["var", "lib", "apt", "lists"]);
                await File.WriteAllBytesAsync(_folder["var", "lib", "apt", "lists", "a_Packages"], bytes);
                new SystemPackages(_folder.Path).ProviderOf("libgauze.so.2");
                break;
            case "kit" or "kit-layers":
                await File.WriteAllBytesAsync(_folder["a.amberkit"], bytes);
                await ReadKitAsync(_folder["a.amberkit"]);
                break;
            case "metadata":
                var signed = SignedMetadata.Read(bytes);
                Action<JsonElement>[] roles =
                [
                    json => MetadataReader.Root(json), json => MetadataReader.Timestamp(json),
                    json => MetadataReader.Snapshot(json),
                    json => MetadataReader.Targets(json),
                ];
                foreach (var role in roles) Refused(() => role(signed.Content));
                Refused(() => _ = new TrustedMetadata(bytes, new SignatureCheck(), DateTimeOffset.UnixEpoch));
                break;
            case "metainfo":
                MetainfoReader.Read(Encoding.UTF8.GetString(bytes));
                break;
            case "export":
                Directory.CreateDirectory(_folder["exports"]);
                await File.WriteAllBytesAsync(_folder["exports", "desk.bundle.toml"], bytes);
                new ExportFolder(_folder["exports"]).Read((_, _, _) => { }, default).ShouldHaveSingleItem();
                break;
            case "squashfs":
                await File.WriteAllBytesAsync(_folder["image"], bytes);
                AppImageFiles.Read(_folder["image"], _folder["taken-out"]);
                DeepFolder.Delete(_folder["taken-out"]);
                break;
            default:
                await _stage.UnpackAsync(reader, bytes, 1);
                break;
        }
    }

    /// <summary>Everything that is done with a kit before an app of it is placed.</summary>
    private async Task ReadKitAsync(string path)
    {
        var kit = KitFile.Open(path);
        Refused(() => kit.Bundle("a.amberkit"));
        Refused(() => kit.Offers());
        Refused(() => _ = kit.CatalogueNames.Count);
        var root = Sha256Digest.Parse("8d19f7ad0bc33b38aa853c9a8fc36d1b6356c2a52237cbd726ab1c6132c18c5d");
        foreach (var name in kit.CatalogueNames)
            await KitSignatures.VerifyAsync(
                kit, name, root, new TrustFolder(_folder["trust"]), new DateTimeOffset(2026, 12, 2, 0, 0, 0, TimeSpan.Zero),
                default);
    }

    /// <summary>A kit in which one layer is changed, and all digests are those of what is in it.</summary>
    private byte[] WithChangedLayer(byte[] seed, int number)
    {
        File.WriteAllBytes(_folder["seed"], seed);
        var at = 0;
        KitForge.Change(
            _folder["seed"], _folder["changed"],
            (_, content) => at++ == number % 9 ? Mutations.Of(content, number) : content);
        return File.ReadAllBytes(_folder["changed"]);
    }

    private static void Refused(Action read)
    {
        try
        {
            read();
        }
        catch (Exception said) when (said is ProblemException or MalformedException or TrustException)
        {
            // That is what it is for.
        }
    }
}
