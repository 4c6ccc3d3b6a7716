using AmberCrate.Core.Values;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Records;

namespace AmberCrate.Engine.Sessions;

/// <summary>Files at addresses, fetched with the credentials of the catalogues that they belong to.</summary>
internal sealed class RemoteFiles : IDisposable
{
    private readonly RecordStore _records;
    private readonly HttpSource _network;
    private readonly TimeSpan _timeout;
    private readonly TimeProvider _clock;
    private readonly List<(CatalogueName Name, string Location)> _admitted = [];

    /// <summary>Opens nothing yet.</summary>
    /// <param name="session">Says whether the network may be used, and how long to wait for it.</param>
    /// <param name="layout">Where the credentials are.</param>
    /// <param name="records">The catalogues whose credentials may be used.</param>
    public RemoteFiles(Session session, MachineLayout layout, RecordStore records)
    {
        var (host, settings) = (session.Host, session.Settings);
        (_records, _timeout, _clock) = (records, settings.NetworkTimeout, host.Clock);
        Credentials = new Credentials(layout.CredentialsFile, host.Variable);
        _network = new HttpSource(
            _timeout, host, session.Request.IsOffline, Credentials, settings.AllowsInternalAddresses);
        Artifacts = new SchemeSource(new FileSource(), _network);
    }

    /// <summary>Which server gets which credentials.</summary>
    public Credentials Credentials { get; }

    /// <summary>Opens addresses of artifacts, which may be large: a slow server is waited for.</summary>
    public IByteSource Artifacts { get; }

    /// <summary>Opens addresses of catalogues. Their files are small, so a slow server is given up on.</summary>
    public IByteSource Small => new PacedSource(Artifacts, _timeout, _clock);

    /// <summary>Gives the credentials of a catalogue to its server, where it is not one of this root yet.</summary>
    public void Admit(CatalogueName name, string location) => _admitted.Add((name, location));

    /// <summary>Gives the credentials of all catalogues to their servers. The catalogues may have changed since the last
    /// call.</summary>
    public void AdmitAll()
    {
        foreach (var catalogue in _records.Catalogues()) Credentials.Admit(catalogue.Name, catalogue.Location);
        foreach (var (name, location) in _admitted) Credentials.Admit(name, location);
    }

    /// <summary>Opens addresses of catalogues, with their credentials.</summary>
    public IByteSource OpenCatalogues()
    {
        AdmitAll();
        return Small;
    }

    /// <summary>Fetches a small file.</summary>
    /// <param name="address">Its address.</param>
    /// <param name="most">The most bytes that it may have.</param>
    /// <param name="cancel">Cancels the operation.</param>
    /// <exception cref="MalformedException">It is larger.</exception>
    public async Task<byte[]> FetchAsync(Uri address, int most, CancellationToken cancel)
    {
        using var content = await OpenCatalogues().OpenAsync(new FetchRequest(address), cancel);
        return await BoundedRead.ToEndAsync(content!.Stream, most, cancel)
            ?? throw new MalformedException($"it is larger than {most >> 10} KiB");
    }

    /// <inheritdoc/>
    public void Dispose() => _network.Dispose();
}
