using AmberCrate.Core.Drafting;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Sessions;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Drafting;

/// <summary>Adds a release to a card, with digest and sizes; everything else in the card stays as it is.</summary>
/// <param name="session">The session.</param>
public sealed class ReleaseCard(Session session)
{
    /// <summary>Downloads or reads the files, and adds the release to the card.</summary>
    /// <param name="request">The card and the file.</param>
    /// <param name="cancel">Cancels the operation.</param>
    /// <exception cref="ProblemException">The card has faults or has the release already, or the file cannot be read.</exception>
    public async Task<ReleaseResult> RunAsync(ReleaseRequest request, CancellationToken cancel)
    {
        var card = session.Host.FullPath(request.Card);
        if (!File.Exists(card) || Posix.TypeOf(card) != Posix.FileType.Regular)
            throw new Problem(ProblemCode.NothingMatched, $"there is no card {request.Card}").ToException();
        var (faults, name) = (new List<FormatFault>(), Path.GetFileName(card));
        var text = TextFile.Read(card, name, faults);
        if (faults.Count > 0)
            throw new Problem(
                ProblemCode.NotVerified, $"{request.Card} cannot be read", faults[0].Message, "correct it first").ToException();
        var (files, elsewhere) = (new List<DraftedFile>(), new List<(string Source, string Location)>());
        foreach (var source in request.Sources)
        {
            using var vendor = await VendorFile.OpenAsync(session, source, Path.GetDirectoryName(card)!, cancel);
            files.Add(new DraftedFile(
                await new PackageReader(vendor.Work).ReadAsync(vendor.Path, vendor.Name, cancel), vendor.Location));
            if (vendor.IsElsewhere) elsewhere.Add((source, vendor.Location));
        }

        var group = new PackageGroup(files);
        if (group.SharedPath is { } shared)
            throw new Problem(
                ProblemCode.Refused, $"the files cannot be put together: two of them have {shared}", "nothing has been changed")
                .ToException();
        if (request.FromMetainfo && group.Together.Metainfo.Count == 0)
            throw new Problem(ProblemCode.NothingMatched, $"{request.Sources[0]} has no metainfo that can be read").ToException();
        var today = DateOnly.FromDateTime(session.Host.Clock.GetLocalNow().DateTime);
        var release = new Drafter(group, today).Release(request.Version, request.Line);
        if (release.Version is null)
            throw new Problem(
                ProblemCode.BadCommandLine, $"{request.Sources[0]} has no version in it", remedy: "name it with --version")
                .ToException();
        if (request.FromMetainfo && release.Notes is null && release.Urgency is null)
            throw new Problem(
                ProblemCode.NothingMatched, $"the metainfo in {request.Sources[0]} does not list {release.Version}")
                .ToException();
        var edited = CardEditing.With(text, name, release);
        AtomicFile.Write(card, System.Text.Encoding.UTF8.GetBytes(edited), File.GetUnixFileMode(card));
        return new ReleaseResult(request.Card, release) { Elsewhere = elsewhere };
    }
}
