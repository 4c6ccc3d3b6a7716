using System.Security.Cryptography;
using System.Text;
using AmberCrate.Core.Bundles;
using AmberCrate.Core.CardFiles;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Offers;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Requirements;
using AmberCrate.Core.Trust;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Bundling;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.KitFiles;
using AmberCrate.Engine.Sessions;
using AmberCrate.Engine.Trust;

namespace AmberCrate.Engine.Kits;

/// <summary>Makes kits, and looks at them.</summary>
/// <param name="session">The session.</param>
public sealed class MakeKit(Session session)
{
    private const string ProgramName = "acrate";
    private const long MostOfFat = (4L << 30) - 1;

    /// <summary>Makes a kit: seals the bundle, fetches what it takes, and writes one file.</summary>
    /// <param name="request">How.</param>
    /// <param name="options">How to fetch.</param>
    /// <param name="cancel">Stops; what has arrived or was written stays for another time.</param>
    /// <exception cref="ProblemException">Something of it is not available, or the file cannot be written.</exception>
    public async Task<KitResult> RunAsync(KitRequest request, RunOptions options, CancellationToken cancel)
    {
        using var station = await new RootOpener(session).ToReadFreshAsync(cancel);
        var path = RequireTarget(request);
        var opened = await new BundleOpening(session, station.Remote, station.Catalogues).OpenAsync(request.Bundle, cancel);
        var platform = request.Platform ?? HostPlatform.Current;
        var (bundle, plan) = await new BundleSealing(session, station.Records, station.Catalogues)
            .SealAsync(opened, platform, cancel);
        await FetchAsync(plan, station.Downloads, new PlanExecution(session, station, options), cancel);
        var contents = new Dictionary<Sha256Digest, Func<Stream>>();
        var blobs = BlobsOf(bundle, plan, request, contents);
        blobs.InsertRange(
            blobs.FindLastIndex(blob => blob.MediaType == KitMedia.Cards) + 1,
            await SignaturesAsync(bundle, plan, station.Catalogues, station.Remote.OpenCatalogues(), contents, cancel));
        var manifest = new KitManifest(bundle.Title ?? opened.Name, platform, CreatedOf(bundle), blobs);
        foreach (var wanted in plan.Items.SelectMany(WantedFile.ListFor))
        {
            var present = await station.Downloads.HaveAsync(wanted, null, cancel);
            contents[wanted.Sha256] = () => File.OpenRead(present.Path);
        }

        var (files, kept) = await WriteAsync(path, manifest, contents, request, cancel);
        return new KitResult(files, manifest, bundle, files.Sum(file => new FileInfo(file).Length), session.Now)
        {
            Sizes = plan.Items.DistinctBy(item => item.DeliveryDigest!)
                .ToDictionary(item => item.DeliveryDigest!, item => item.Delivery!.DownloadSize),
            Program = request.WithProgram ? ProgramIn(Path.GetDirectoryName(path)!) : null, Kept = kept,
            Requirements = [.. plan.Items.SelectMany(RequirementsOf).Distinct()],
            Silent =
                [.. plan.Items.Where(item => item.Offer!.Card.RequirementsOf(item.Release!) is null).Select(item => item.Id)],
        };
    }

    /// <summary>What an app expects of the system on which it will be; a mapped start takes bubblewrap.</summary>
    private static IEnumerable<SystemRequirement> RequirementsOf(PlanItem item)
    {
        var card = item.Offer!.Card;
        var required = card.RequirementsOf(item.Release!) ?? [];
        return card.PlacementOf(item.Release!).Mapped.Count == 0
            ? required
            : required.Append(new SystemRequirement { Kind = RequirementKind.Program, Name = "bwrap" });
    }

    /// <summary>Looks at a kit.</summary>
    /// <param name="file">The kit.</param>
    /// <exception cref="ProblemException">It is no kit, or damaged.</exception>
    public KitResult View(string file)
    {
        using var station = new RootOpener(session).ToRead();
        var path = session.Host.FullPath(file);
        if (!File.Exists(path)) throw new Problem(ProblemCode.NothingMatched, $"there is no kit {file}").ToException();
        if (!KitFile.Is(path))
            throw new Problem(
                ProblemCode.NotVerified, $"{file} is no kit", "a kit is a tar archive",
                NextCommand.Create("kit make", "BUNDLE", "-o", "FILE")).ToException();
        var kit = KitFile.Open(path);
        var (bundle, offers) = (kit.Bundle(file).Bundle, station.Catalogues.Offers());
        var newer = new Dictionary<string, string>(StringComparer.Ordinal);
        foreach (var app in bundle.Apps.Where(app => app.Reference.Id is not null))
        {
            var found = offers.Find(app.Reference.Id!).Where(offer => offer.Catalogue == app.Reference.Catalogue);
            if (ReleaseChoice.Find(found, app.Reference.Selector, kit.Manifest.Platform)?.Release.Version is { } version
                && version > app.Version!) newer[app.Reference.Name] = version.Text;
        }

        return new KitResult(KitParts.ListFor(path), kit.Manifest, bundle, kit.Size, session.Now)
        {
            Newer = newer,
            Sizes = bundle.Apps.DistinctBy(app => app.Sha256!).ToDictionary(app => app.Sha256!, app => kit.SizeOf(app) ?? 0),
        };
    }

    /// <summary>The kit beside the program, if there is exactly one; null otherwise.</summary>
    /// <exception cref="ProblemException">Another user could have put it there.</exception>
    public static string? BesideProgram(HostEnvironment host)
    {
        if (Environment.ProcessPath is not { } program || Path.GetDirectoryName(program) is not { } folder
            || host.Program.Count != 1) return null;
        return Directory.EnumerateFiles(folder, "*" + KitMedia.FileEnding).Take(2).ToList() is [var only]
            ? RequireOwn(only, folder)
            : null;
    }

    /// <summary>A kit that nobody named must be the user's own, or root's.</summary>
    internal static string RequireOwn(string kit, string folder)
    {
        if (FileOwnership.IsOurs(kit) && FileOwnership.IsOurs(folder)) return kit;
        throw new Problem(
            ProblemCode.Refused, $"{kit} is beside this program, but another user can change it or {folder}",
            "a kit that you do not name must belong to you or to root",
            $"if it is the right one, name it: {NextCommand.Create("equip", kit)}").ToException();
    }

    private string RequireTarget(KitRequest request)
    {
        var path = session.Host.FullPath(request.File);
        if (!Directory.Exists(Path.GetDirectoryName(path)))
            throw new Problem(
                ProblemCode.NothingMatched, $"{request.File} cannot be written",
                $"there is no folder {Path.GetDirectoryName(path)}")
                    .ToException();
        if (File.Exists(path))
            throw new Problem(
                ProblemCode.Refused, $"{request.File} exists already", "it may still be needed",
                    "name another file, or remove it")
                    .ToException();
        if (request.WithProgram && session.Host.Program.Count != 1)
            throw new Problem(
                ProblemCode.Refused, "this acrate is not one file, and cannot go with the kit",
                $"it runs as {string.Join(' ', session.Host.Program)}", "use the published program").ToException();
        return path;
    }

    private static async Task FetchAsync(
        Plan plan, DownloadCache downloads, PlanExecution execution, CancellationToken cancel)
    {
        var missing = plan with
        {
            Items = [.. plan.Items.Where(item => item.FilesToFetch.Any(
                one => downloads.BytesThere(one.Digest) != one.File.DownloadSize))],
        };
        if (missing.Items.Count == 0) return;
        var result = await execution.PrefetchAsync(missing, cancel);
        if (result.Report is not { } report || !report.Failures.Any()) return;
        var first = report.Failures.First();
        throw new Problem(
            first.Problem?.Code ?? ProblemCode.Unreachable, "the kit cannot be made: some of its files could not be downloaded",
            "nothing has been written; what was downloaded is kept", "run the command again")
        {
            Details = [.. report.Failures.Select(item =>
                Advice.Combine($"{item.Item.Id}: {item.Problem?.What} {item.Problem?.Why}"))],
        }.ToException();
    }

    /// <summary>The same bundle of the same day makes the same kit, which an interrupted try can then be finished with.</summary>
    private static DateTimeOffset CreatedOf(Bundle bundle) => new(bundle.Sealed!.Value, TimeOnly.MinValue, TimeSpan.Zero);

    private static List<KitBlob> BlobsOf(
        Bundle bundle, Plan plan, KitRequest request, Dictionary<Sha256Digest, Func<Stream>> contents)
    {
        List<KitBlob> blobs =
        [
            Blob(KitMedia.Bundle, Encoding.UTF8.GetBytes(BundleWriter.Write(bundle)), contents) with
            {
                Title = "kit" + Bundle.FileEnding,
            },
        ];
        foreach (var catalogue in plan.Items.GroupBy(item => (item.Offer!.Catalogue, item.Offer.Base)))
            blobs.Add(Blob(KitMedia.Cards, CardsOf(catalogue), contents) with
            {
                Title = $"{catalogue.Key.Catalogue}.cards.jsonl",
                Catalogue = catalogue.Key.Catalogue.Text,
                Base = catalogue.Key.Base.AbsoluteUri,
            });
        if (request.WithProgram) blobs.Add(ProgramBlob(contents));
        blobs.AddRange(plan.Items.SelectMany(item => item.FilesToFetch.Select((one, at) => new KitBlob(
            KitMedia.Artifact, one.Digest, one.File.DownloadSize)
        {
            Title = at == 0 ? $"{item.Id}-{item.To}" : $"{item.Id}-{item.To}.{at + 1}",
        })));
        return blobs;
    }

    /// <summary>
    /// The signatures over the cards, of each catalogue that is signed. Where they cannot be had now, that is said, and the kit
    /// goes without them.
    /// </summary>
    private async Task<List<KitBlob>> SignaturesAsync(
        Bundle bundle, Plan plan, KnownCatalogues catalogues, IByteSource source,
        Dictionary<Sha256Digest, Func<Stream>> contents, CancellationToken cancel)
    {
        var blobs = new List<KitBlob>();
        foreach (var items in plan.Items.GroupBy(item => item.Offer!.Catalogue))
        {
            // A machine that makes a kit need not have the catalogues of the bundle: the bundle names their roots, too.
            var root = catalogues.All().FirstOrDefault(one => one.Name == items.Key)?.Trust.Root
                ?? bundle.Catalogues.FirstOrDefault(one => one.Name == items.Key)?.Root;
            if (root is null) continue;
            try
            {
                var files = await KitSignatures.RecordAsync(
                    new SignedCards(items.First().Offer!.Base, root, [.. items.Select(CardOf)], session.Now), source,
                    catalogues.PartsOf(items.Key, items.Select(item => item.Offer!.Card.Id)), cancel);
                blobs.AddRange(files.Select(file => Blob(KitMedia.Trust, file.Value, contents) with
                {
                    Title = file.Key,
                    Catalogue = items.Key.Text,
                }));
            }
            catch (Exception fault) when (fault is TrustException or MalformedException || SourceFault.IsOfSource(fault))
            {
                session.Note(
                    $"the kit carries no signatures of {items.Key}, and is used with {CatalogueAdmission.Option} only: "
                        + fault.Message);
            }
        }

        return blobs;
    }

    private static AppCard CardOf(PlanItem item) => item.Offer!.Card with { Releases = [item.Release!] };

    private static byte[] CardsOf(IEnumerable<PlanItem> items)
    {
        using var lines = new MemoryStream();
        foreach (var item in items.OrderBy(item => item.Id, StringComparer.Ordinal))
        {
            lines.Write(CardJson.Write(CardOf(item)));
            lines.WriteByte((byte)'\n');
        }

        return lines.ToArray();
    }

    private static KitBlob Blob(string mediaType, byte[] content, Dictionary<Sha256Digest, Func<Stream>> contents)
    {
        var sha256 = Sha256Digest.FromBytes(SHA256.HashData(content));
        contents[sha256] = () => new MemoryStream(content);
        return new KitBlob(mediaType, sha256, content.Length);
    }

    private static KitBlob ProgramBlob(Dictionary<Sha256Digest, Func<Stream>> contents)
    {
        var path = Environment.ProcessPath!;
        using var file = File.OpenRead(path);
        var sha256 = Sha256Digest.FromBytes(SHA256.HashData(file));
        contents[sha256] = () => File.OpenRead(path);
        return new KitBlob(KitMedia.Program, sha256, file.Length) { Title = ProgramName };
    }

    private async Task<(IReadOnlyList<string> Files, long Kept)> WriteAsync(
        string path, KitManifest manifest, Dictionary<Sha256Digest, Func<Stream>> contents, KitRequest request,
        CancellationToken cancel)
    {
        var writer = new KitWriter(manifest);
        var size = writer.Size;
        RequireRoom(path, size, request);
        using var target = new SplitWriter(path, request.Split ?? long.MaxValue);
        try
        {
            await writer.WriteAsync(target, blob => contents[blob.Sha256](), done => session.Watch(
                new OperationEvent.Writing(Path.GetFileName(path), done, size)), cancel);

            // The program first: once the kit has its name, the command is done.
            var files = target.Finish(() =>
            {
                if (request.WithProgram) CopyProgram(Path.GetDirectoryName(path)!);
            });
            return (files, target.Kept);
        }
        catch (Exception fault) when (fault is not ProblemException && IoProblems.IsExpected(fault))
        {
            target.Dispose();
            throw (IoProblems.ToProblem(fault, $"{path} cannot be written") with { Remedy = Left(path) }).ToException(fault);
        }
        finally
        {
            session.Watch(new OperationEvent.WorkEnds());
        }
    }

    /// <summary>What is really there after a fault, and what to do.</summary>
    private static Advice Left(string path)
    {
        if (File.Exists(path)) return $"{Path.GetFileName(path)} is there and whole; run the command with another name "
            + "to make a new one";
        var left = SplitWriter.LeftOf(path);
        return left.Count == 0
            ? Advice.Combine($"nothing of it is there; check the disk, then run the command again")
            : Advice.Combine($"{ByteSize.Words(left.Sum(part => part.Size))} are in {Path.GetFileName(left[0].File)}; the "
                + "same command goes "
                + $"on there, and checks them first");
    }

    private static void RequireRoom(string path, long size, KitRequest request)
    {
        var drive = new DriveInfo(Path.GetDirectoryName(path)!);
        var program = request.WithProgram && Environment.ProcessPath != ProgramIn(Path.GetDirectoryName(path)!)
            ? new FileInfo(Environment.ProcessPath!).Length
            : 0;
        var needed = size - SplitWriter.RoomOf(path, request.Split ?? long.MaxValue, size) + program;
        if (needed > drive.AvailableFreeSpace)
            throw new Problem(
                ProblemCode.Refused, $"{path} does not fit", $"it takes {ByteSize.Words(needed)}; "
                    + $"{ByteSize.Words(drive.AvailableFreeSpace)} are free there", "make room, or leave apps out").ToException();
        var largest = Math.Min(size, request.Split ?? long.MaxValue);
        if (largest > MostOfFat && drive.DriveFormat is "msdos" or "vfat")
            throw new Problem(
                ProblemCode.Refused, $"{path} does not fit", $"files on that stick have at most 4 GiB; the kit has "
                    + ByteSize.Words(size), "add --split 4GiB; the parts are found by themselves").ToException();
    }

    private static string ProgramIn(string folder) => Path.Combine(folder, ProgramName);

    private static void CopyProgram(string folder)
    {
        var target = ProgramIn(folder);
        if (Path.GetFullPath(target) == Path.GetFullPath(Environment.ProcessPath!)) return;
        AtomicFile.Write(
            target, File.ReadAllBytes(Environment.ProcessPath!),
            UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute | UnixFileMode.GroupRead
                | UnixFileMode.GroupExecute | UnixFileMode.OtherRead | UnixFileMode.OtherExecute);
    }
}
