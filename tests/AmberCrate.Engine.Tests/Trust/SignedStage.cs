using AmberCrate.Core.Trust;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Cataloguing;
using AmberCrate.Engine.Equipping;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Installing;
using AmberCrate.Engine.Kits;
using AmberCrate.Engine.Publishing;
using AmberCrate.Engine.Sessions;
using AmberCrate.Engine.Trust;
using AmberCrate.Engine.Upgrading;
using AmberCrate.Tests.Trust;

namespace AmberCrate.Engine.Tests.Trust;

/// <summary>A stage on which the guild is published and signed: <c>site</c> with the keys in <c>keys</c>.</summary>
internal sealed class SignedStage : IDisposable
{
    private readonly MovedClock _clock = new();

    public SignedStage()
    {
        Stage.Clock = _clock;
        MakeKeys("keys");
    }

    public OperationStage Stage { get; } = new();

    public MetadataForge Forge => new(Stage["site"], Stage["keys"]);

    public string this[params string[] parts] => Stage[parts];

    /// <summary>How far this clock is ahead of the real one.</summary>
    public TimeSpan Ahead
    {
        get => _clock.Ahead;
        set => _clock.Ahead = value;
    }

    public Sha256Digest Root => Sha256Digest.FromBytes(
        System.Security.Cryptography.SHA256.HashData(File.ReadAllBytes(Stage["site", "1.root.json"])));

    public void MakeKeys(string folder, string type = TrustKey.Ecdsa)
    {
        Directory.CreateDirectory(Stage[folder]);
        foreach (var name in KeyRing.Names) KeyFile.Create(Path.Combine(Stage[folder], $"{name}.pem"), type, null);
    }

    /// <summary>Publishes a folder of cards; as another maintainer where one is named.</summary>
    public Task<PublishResult> PublishAsync(string cards = "guild", string keys = "keys", string? maintainer = null) =>
        new BuildCatalogue(Host).RunAsync(
            new BuildRequest(Stage[cards], Stage["site"], WithArtifacts: maintainer is null, IsFull: false)
            {
                Keys = Keys(keys), As = maintainer,
            }, TestContext.Current.CancellationToken);

    public Signing Renew() => new RenewCatalogue(Host).Run(Stage["site"], Keys("keys"));

    public ChangeKeys ChangeKeys(string keys = "keys") => new(Host, Stage["site"], Keys(keys));

    public KeyRing Keys(string folder) => new(Stage[folder], null);

    /// <summary>Adds a folder as a catalogue; under the published root where nothing else is said.</summary>
    public Task<RefreshResult> AddAsync(
        string name = "guild", string folder = "site", string? trust = "", bool allowsUnsigned = false,
        IReadOnlyList<string>? takesOver = null) => new AddCatalogue(Stage.Session()).RunAsync(
        new AddCatalogueRequest(CatalogueName.Parse(name), Stage[folder])
        {
            Trust = trust == "" ? Root.Hex : trust, AllowsUnsigned = allowsUnsigned, TakesOver = takesOver ?? [],
        },
        TestContext.Current.CancellationToken);

    public async Task<RefreshResult> RefreshAsync() =>
        (await new RefreshCatalogues(Stage.Session()).RunAsync([], TestContext.Current.CancellationToken)).Single();

    public DroppedCatalogue Drop(string name) => new DropCatalogue(Stage.Session()).Run(CatalogueName.Parse(name));

    public Task<RunResult> InstallAsync(params string[] references) => new Install(Stage.Session()).RunAsync(
        [.. references.Select(AppReference.Parse)], new InstallRequest(), new RunOptions { IsAgreed = true }, default);

    public Task<RunResult> UpgradeAsync() =>
        new Upgrade(Stage.Session()).RunAsync([], new UpgradeRequest(), new RunOptions { IsAgreed = true }, default);

    public Task<RunResult> EquipAsync(string bundle, bool allowsUnsigned = false) => new Equip(Stage.Session()).RunAsync(
        new EquipRequest(Stage[bundle]), new RunOptions { IsAgreed = true, AllowsUnsigned = allowsUnsigned }, default);

    /// <summary>Makes a kit of some apps.</summary>
    public async Task<KitResult> MakeKitAsync(string kit, params string[] references)
    {
        await File.WriteAllTextAsync(
            Stage["kit.bundle.toml"],
            "bundle = 1\n" + string.Concat(references.Select(one => $"[[apps]]\nreference = \"{one}\"\n")));
        File.Delete(Stage[kit]);
        return await new MakeKit(Stage.Session()).RunAsync(
            new KitRequest(Stage["kit.bundle.toml"], Stage[kit]), new RunOptions(), TestContext.Current.CancellationToken);
    }

    /// <summary>What is installed: id, version, catalogue, and whether it was taken without a signature.</summary>
    public IReadOnlyList<string> Installed()
    {
        using var station = new RootOpener(Stage.Session()).ToRead();
        return [.. station.Apps.Read().Apps.Select(
            app => $"{app.Id} {app.Version} {app.Catalogue}{(app.IsUnsigned ? " unsigned" : "")}")];
    }

    /// <summary>What the cache knows of the guild.</summary>
    public CatalogueState State()
    {
        using var station = new RootOpener(Stage.Session()).ToRead();
        return station.Cache.StateOf(station.Records.Catalogues().Single())!;
    }

    public void Dispose() => Stage.Dispose();

    private HostEnvironment Host => Stage.Session().Host;

    private sealed class MovedClock : TimeProvider
    {
        public TimeSpan Ahead { get; set; }

        public override DateTimeOffset GetUtcNow() => base.GetUtcNow() + Ahead;
    }
}
