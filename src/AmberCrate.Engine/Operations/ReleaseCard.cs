using AmberCrate.Core.Drafting;
using AmberCrate.Core.Formats;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Drafting;
using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Operations;

/// <summary>Adds a release to a card, with digest and sizes; everything else in the card stays as it is.</summary>
/// <param name="session">The session.</param>
public sealed class ReleaseCard(Session session)
{
    /// <summary>Does it.</summary>
    /// <param name="wish">The card and the file.</param>
    /// <param name="cancel">Stops.</param>
    /// <exception cref="ProblemException">The card has faults or has the release already, or the file cannot be read.</exception>
    public async Task<ReleaseResult> RunAsync(ReleaseWish wish, CancellationToken cancel)
    {
        var card = session.Host.FullPath(wish.Card);
        if (!File.Exists(card) || Posix.TypeOf(card) != Posix.FileType.Regular)
            throw new Problem(ProblemCode.NothingMatched, $"there is no card {wish.Card}").ToException();
        var (faults, name) = (new List<FormatFault>(), Path.GetFileName(card));
        var text = TextFile.Read(card, name, faults);
        if (faults.Count > 0)
            throw new Problem(
                ProblemCode.NotVerified, $"{wish.Card} cannot be read", faults[0].Message, "correct it first").ToException();
        using var vendor = await VendorFile.OpenAsync(session, wish.Source, Path.GetDirectoryName(card)!, cancel);
        var contents = await new PackageReader(vendor.Work).ReadAsync(vendor.Path, vendor.Name, cancel);
        if (wish.FromMetainfo && contents.Metainfo.Count == 0)
            throw new Problem(ProblemCode.NothingMatched, $"{wish.Source} has no metainfo that can be read").ToException();
        var today = DateOnly.FromDateTime(session.Host.Clock.GetLocalNow().DateTime);
        var release = new Drafter(contents, vendor.Location, today).Release(wish.Version, wish.Line);
        if (release.Version is null)
            throw new Problem(
                ProblemCode.BadCommandLine, $"{wish.Source} does not tell its version", remedy: "name it with --version")
                .ToException();
        if (wish.FromMetainfo && release.Notes is null && release.Urgency is null)
            throw new Problem(
                ProblemCode.NothingMatched, $"the metainfo in {wish.Source} does not tell of {release.Version}").ToException();
        var edited = CardEditing.With(text, name, release);
        AtomicFile.Write(card, System.Text.Encoding.UTF8.GetBytes(edited), File.GetUnixFileMode(card));
        return new ReleaseResult(wish.Card, release) { IsElsewhere = vendor.IsElsewhere };
    }
}
