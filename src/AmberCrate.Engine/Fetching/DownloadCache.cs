using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Fetching;

/// <summary>
/// Artifacts by digest, shared by all roots of a user. What exists is hashed again before it is used; what is half there is
/// taken up by whoever needs it next; two runs that want the same file wait for each other.
/// </summary>
public sealed class DownloadCache
{
    private const string PartEnding = ".part";
    private const long WorthNotWaiting = 8 << 20;
    private const UnixFileMode OthersWrite = UnixFileMode.GroupWrite | UnixFileMode.OtherWrite;
    private const UnixFileMode OthersRead = (UnixFileMode)0x1FF & ~OthersWrite;
    private static readonly TimeSpan LookAgain = TimeSpan.FromMilliseconds(150);
    private static readonly TimeSpan PartsAreKept = TimeSpan.FromDays(14);

    private readonly string _folder;
    private readonly Settings _settings;
    private readonly TimeProvider _clock;
    private readonly IByteSource _source;
    private readonly Lazy<bool> _prepared;

    /// <summary>Makes a cache in a folder, which is made when it is needed.</summary>
    /// <param name="folder">The folder.</param>
    /// <param name="source">Opens addresses.</param>
    /// <param name="settings">How to fetch.</param>
    /// <param name="clock">The clock.</param>
    /// <param name="beforeFetching">What must be done once before the first address is opened.</param>
    public DownloadCache(string folder, IByteSource source, Settings settings, TimeProvider clock, Action beforeFetching)
    {
        (_folder, _settings, _clock) = (folder, settings, clock);
        _source = settings.Bandwidth is { } limit ? new LimitedSource(source, new Bandwidth(limit, clock)) : source;
        _prepared = new Lazy<bool>(() =>
        {
            beforeFetching();
            return true;
        });
    }

    /// <summary>A source that has a file locally, whatever its addresses; null if none has.</summary>
    public Func<Sha256Digest, IByteSource?> AtHand { get; init; } = _ => null;

    /// <summary>The mirrors of a catalogue at an address.</summary>
    public Func<Uri, IReadOnlyList<Uri>> MirrorsOf { get; init; } = _ => [];

    /// <summary>How much of an artifact is there, in bytes, unchecked: for saying beforehand how much is still to come.</summary>
    public long BytesThere(Sha256Digest sha256)
    {
        var file = new FileInfo(PathOf(sha256));
        if (!file.Exists) file = new FileInfo(file.FullName + PartEnding);
        return file.Exists ? file.Length : 0;
    }

    /// <summary>Whether the whole file is there. It is verified when it is used.</summary>
    public bool Has(Sha256Digest sha256) => File.Exists(PathOf(sha256));

    /// <summary>The artifact as soon as it is there: a large one that the cache holds is checked on the way.</summary>
    /// <param name="wanted">The artifact.</param>
    /// <param name="watch">Receives the progress.</param>
    /// <param name="cancel">Stops; what has arrived stays for another time.</param>
    public async Task<PresentFile> HaveAsync(WantedFile wanted, TransferWatch? watch, CancellationToken cancel)
    {
        var cached = new FileInfo(PathOf(wanted.Sha256));
        if (!cached.Exists || cached.Length != wanted.Size || cached.Length < WorthNotWaiting)
            return PresentFile.FromVerified(await GetAsync(wanted, watch, cancel));
        RequireOwn();
        Touch(cached.FullName);
        return new PresentFile(
            cached.FullName, Task.Run(() => VerifiedFile.FindAsync(cached.FullName, wanted.Size, wanted.Sha256, cancel), cancel));
    }

    /// <summary>The artifact as a verified file, from the cache or else from its sources.</summary>
    /// <param name="wanted">The artifact.</param>
    /// <param name="watch">Receives the progress.</param>
    /// <param name="cancel">Stops; what has arrived stays for another time.</param>
    public async Task<VerifiedFile> GetAsync(WantedFile wanted, TransferWatch? watch, CancellationToken cancel)
    {
        Directory.CreateDirectory(_folder, OthersRead);
        RequireOwn();
        var path = PathOf(wanted.Sha256);
        for (var waits = false; ; waits = true)
        {
            if (File.Exists(path)) Touch(path);
            if (await VerifiedFile.FindAsync(path, wanted.Size, wanted.Sha256, cancel) is { } cached) return cached;

            await using var incoming = VerifiedFile.Incoming.TryOpen(path + PartEnding);
            if (incoming is not null) return await FetchAsync(wanted, incoming, path, watch, cancel);
            if (!waits) watch?.Waits?.Invoke(TimeSpan.Zero, "another run is downloading the same file");
            await Task.Delay(LookAgain, _clock, cancel);
        }
    }

    /// <summary>
    /// Drops what was not used for longest until the cache keeps to its limit, and halves that nobody took up again.
    /// </summary>
    /// <param name="spared">What stays in any case: it has just been fetched for use.</param>
    /// <param name="needed">The digests of files that may be needed without a network, such as for undo. They stay too. This is
    /// asked only if something would be dropped.</param>
    public void Prune(IReadOnlySet<Sha256Digest> spared, Func<IReadOnlySet<string>>? needed = null)
    {
        if (!Directory.Exists(_folder)) return;
        var alsoSpared = new Lazy<IReadOnlySet<string>>(needed ?? (() => new HashSet<string>()));
        var files = new DirectoryInfo(_folder).EnumerateFiles().OrderByDescending(file => file.LastWriteTimeUtc).ToList();
        var kept = 0L;
        var now = _clock.GetUtcNow().UtcDateTime;
        foreach (var file in files)
        {
            var isPart = file.Name.EndsWith(PartEnding, StringComparison.Ordinal);
            if (isPart ? now - file.LastWriteTimeUtc < PartsAreKept : Sha256Digest.TryParse(file.Name, out var digest)
                && (spared.Contains(digest) || kept + file.Length <= _settings.CacheSize
                    || alsoSpared.Value.Contains(digest.Hex))) kept += file.Length;
            else if (isPart || Sha256Digest.TryParse(file.Name, out _)) file.Delete();
        }
    }

    private async Task<VerifiedFile> FetchAsync(
        WantedFile wanted, VerifiedFile.Incoming incoming, string path, TransferWatch? watch, CancellationToken cancel)
    {
        // Whoever had the file open before may have finished it in the meantime.
        if (await VerifiedFile.FindAsync(path, wanted.Size, wanted.Sha256, cancel) is { } finished)
        {
            File.Delete(path + PartEnding);
            return finished;
        }

        try
        {
            _ = _prepared.Value;
            await incoming.TakeUpAsync(cancel);
            var source = AtHand(wanted.Sha256) ?? new RetriedSource(
                new MirroredSource(_source, PlacesOf(wanted)), RetryRule.Usual with { FirstWait = _settings.RetryWait }, _clock,
                watch?.Waits);
            return await new ArtifactTransfer(source).RunAsync(wanted, incoming, path, watch?.Bytes, cancel);
        }
        finally
        {
            // A half is worth keeping; nothing is not, nor is anything on a disk that is full.
            if (incoming.Length == 0 || new DriveInfo(_folder).AvailableFreeSpace == 0) File.Delete(path + PartEnding);
        }
    }

    /// <summary>
    /// In a folder that others can write to, a file could be another one by the time it is unpacked. One of root that can only be
    /// read is a cache all the same.
    /// </summary>
    private void RequireOwn()
    {
        var owner = Posix.OwnerOf(_folder);
        var isOwn = owner == Posix.EffectiveUser() || owner == 0;
        var mode = File.GetUnixFileMode(_folder);
        if (isOwn && (mode & OthersWrite) == 0) return;
        throw new Problem(
            ProblemCode.Refused, $"the download cache {_folder} is not safe",
            isOwn ? "other users can write to it" : $"it belongs to user {owner}",
            isOwn ? (Advice)$"chmod go-w {ShellWord.Quote(_folder)}" : "set cache_folder to a folder of your own").ToException();
    }

    /// <summary>Where a file lies: what is beside its catalogue is on the catalogue's mirrors, too, and there first.</summary>
    private IEnumerable<(Uri Address, Uri? Catalogue)> PlacesOf(WantedFile wanted)
    {
        var mirrors = wanted.Catalogue is { } catalogue ? MirrorsOf(catalogue) : [];
        return from source in wanted.Sources
               from place in mirrors.Where(_ => wanted.Catalogue!.IsBaseOf(source))
                   .Select(mirror => (new Uri(mirror, wanted.Catalogue!.MakeRelativeUri(source)), (Uri?)mirror))
                   .Append((source, wanted.Catalogue))
               select place;
    }

    private string PathOf(Sha256Digest sha256) => Path.Combine(_folder, sha256.Hex);

    private void Touch(string path)
    {
        try
        {
            File.SetLastWriteTimeUtc(path, _clock.GetUtcNow().UtcDateTime);
        }
        catch (UnauthorizedAccessException)
        {
            // A cache that may only be read is a cache all the same.
        }
    }
}
