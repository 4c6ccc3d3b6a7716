using AmberCrate.Core.Bundles;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.BundleFiles;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.KitFiles;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Bundling;

/// <summary>Opens bundles: from files, addresses and catalogues.</summary>
/// <param name="session">The session.</param>
/// <param name="remote">Fetches those at addresses.</param>
/// <param name="catalogues">Has those that catalogues carry.</param>
internal sealed class BundleOpening(Session session, RemoteFiles remote, KnownCatalogues catalogues) : IBundleShelf
{
    /// <summary>Opens a bundle.</summary>
    /// <param name="named">What the user named.</param>
    /// <param name="cancel">Cancels the operation.</param>
    /// <exception cref="ProblemException">It is not there, has faults, or its layers contradict each other.</exception>
    public async Task<OpenedBundle> OpenAsync(string named, CancellationToken cancel)
    {
        if (Address.IsPlain(named) && !IsLoopback(named))
            session.Note("this bundle comes over http: anybody on the way can change it; use https where you can");
        if (KitFile.Is(session.Host.FullPath(InputFile.PathOf(named))))
        {
            var kit = KitFile.Open(session.Host.FullPath(named));
            return Flattened(named, kit.Bundle(named)) with { Kit = kit };
        }

        var top = await new BundleLoading(this, session.Host.FullPath(".")).LoadAsync(named, cancel);
        return Flattened(named, top);
    }

    /// <summary>Whether what a user named is a bundle that a catalogue carries, and no file.</summary>
    public static bool IsCarried(string named, Session session) =>
        BundlePlace.InCatalogue(named) is not null && !Path.Exists(session.Host.FullPath(named));

    /// <summary>What a bundle comes to on this machine.</summary>
    /// <exception cref="ProblemException">Its layers contradict each other.</exception>
    public OpenedBundle Flattened(string named, BundleLayer top)
    {
        var faults = new List<FormatFault>();
        var flat = new BundleFlattening(session.Host.MachineName, HostPlatform.Current).Flatten(top, faults);
        if (flat is not null) return new OpenedBundle(named, top, flat);
        throw new Problem(
            ProblemCode.NotVerified, $"the layers of {top.Name} contradict each other", "nothing has been changed",
            "decide in the bundle that builds on both")
        { Details = [.. faults.Select(fault => fault.ToString())] }.ToException();
    }

    /// <inheritdoc/>
    public Task<byte[]> FetchAsync(Uri address, CancellationToken cancel) =>
        remote.FetchAsync(address, BundleLoading.MostBytes, cancel);

    /// <inheritdoc/>
    public byte[]? Find(CatalogueName catalogue, string name) =>
        catalogues.Bundles([catalogue]).FirstOrDefault(bundle => bundle.Name == name)?.Text;

    /// <inheritdoc/>
    public string? LocationOf(CatalogueName catalogue) =>
        catalogues.All().FirstOrDefault(one => one.Name == catalogue)?.Location;

    private static bool IsLoopback(string address) => Uri.TryCreate(address, UriKind.Absolute, out var uri) && uri.IsLoopback;
}
