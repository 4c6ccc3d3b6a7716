using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Sessions;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Drafting;

/// <summary>
/// A vendor's file to read: one that is there, or one that is downloaded into a folder that is deleted afterwards.
/// </summary>
internal sealed class VendorFile : IDisposable
{
    private const long MostBytes = 16L << 30;
    private const int BufferSize = 1 << 17;

    private VendorFile(string work, string path, string name, string location) =>
        (Work, Path, Name, Location) = (work, path, name, location);

    /// <summary>A folder of its own, for what is unpacked.</summary>
    public string Work { get; }

    /// <summary>The file.</summary>
    public string Path { get; }

    /// <summary>Its name.</summary>
    public string Name { get; }

    /// <summary>Where it is, as a card says it.</summary>
    public string Location { get; }

    /// <summary>Whether it is outside the folder of cards.</summary>
    public bool IsElsewhere { get; private init; }

    /// <summary>Opens one.</summary>
    /// <param name="session">The session.</param>
    /// <param name="place">A path, or an http: or https: address.</param>
    /// <param name="cards">The folder of cards, absolute.</param>
    /// <param name="cancel">Cancels the operation.</param>
    /// <exception cref="ProblemException">It is not there, or cannot be downloaded.</exception>
    public static async Task<VendorFile> OpenAsync(Session session, string place, string cards, CancellationToken cancel)
    {
        var work = WorkFolder.Make("card").Path;
        try
        {
            if (Address.IsOfWeb(place))
                return Uri.TryCreate(place, UriKind.Absolute, out var address)
                    ? await DownloadAsync(session, address, work, cancel)
                    : throw new Problem(ProblemCode.BadCommandLine, $"{place} is no address").ToException();
            var path = session.Host.FullPath(place);
            if (!File.Exists(path) || Posix.TypeOf(path) != Posix.FileType.Regular)
                throw new Problem(ProblemCode.NothingMatched, $"there is no file {place}").ToException();
            var name = System.IO.Path.GetFileName(path);
            var inside = System.IO.Path.GetRelativePath(cards, path);
            var isElsewhere = inside.StartsWith("..", StringComparison.Ordinal) || System.IO.Path.IsPathRooted(inside);
            return new VendorFile(work, path, name, isElsewhere ? $"files/{name}" : inside) { IsElsewhere = isElsewhere };
        }
        catch
        {
            DeepFolder.Delete(work);
            throw;
        }
    }

    /// <inheritdoc/>
    public void Dispose() => DeepFolder.Delete(Work);

    private static async Task<VendorFile> DownloadAsync(Session session, Uri address, string work, CancellationToken cancel)
    {
        var name = Uri.UnescapeDataString(address.Segments[^1]);
        if (name.Length == 0 || name.Contains('/') || name.StartsWith('.')) name = "download";
        var path = System.IO.Path.Combine(work, "download");
        if (session.Request.IsOffline)
            throw new Problem(ProblemCode.Unreachable, $"{address} was not fetched", "--offline is set").ToException();
        using var network = new HttpSource(session.Settings.NetworkTimeout);
        try
        {
            using var content = await network.OpenAsync(new FetchRequest(address), cancel)
                ?? throw new InvalidDataException("the server sent nothing");
            await using var target = new FileStream(path, FileMode.CreateNew, FileAccess.Write);
            var buffer = new byte[BufferSize];
            for (int read; (read = await content.Stream.ReadAsync(buffer, cancel)) > 0;)
            {
                if (target.Length + read > MostBytes) throw new InvalidDataException($"it is larger than {MostBytes >> 30} GiB");
                target.Write(buffer, 0, read);
            }

            if (content.Length is { } announced && announced != target.Length)
                throw new EndOfStreamException($"{announced} bytes were announced, {target.Length} came");
        }
        catch (Exception fault) when (SourceFault.IsOfSource(fault) || fault is InvalidDataException or EndOfStreamException)
        {
            throw new Problem(ProblemCode.Unreachable, $"{address} could not be downloaded", fault.Message).ToException(fault);
        }

        return new VendorFile(work, path, name, address.AbsoluteUri);
    }
}
