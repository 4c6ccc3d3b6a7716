using System.Security.Cryptography;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Trust;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Sessions;
using AmberCrate.Engine.Trust;

namespace AmberCrate.Engine.Cataloguing;

/// <summary>Adds a catalogue behind the others, once its data have been fetched.</summary>
/// <param name="session">The session.</param>
public sealed class AddCatalogue(Session session)
{
    private const int MostRoot = 512 << 10;

    /// <summary>Fetches the catalogue, and registers it if it can be read.</summary>
    /// <param name="request">What is to be added.</param>
    /// <param name="cancel">Cancels the operation.</param>
    /// <exception cref="ProblemException">There is one of this name, it cannot be fetched or is not trusted, or it would take
    /// over apps.</exception>
    public async Task<RefreshResult> RunAsync(AddCatalogueRequest request, CancellationToken cancel)
    {
        var (name, location) = (request.Name, CatalogueRefresh.Normalise(request.Location));
        var opening = new RootOpener(session);
        RefreshResult result;
        using (var looking = opening.ToRefresh())
        {
            RequireFree(name, location, looking.Catalogues, looking.Apps, request);
            result = await DownloadAsync(request, name, location, looking, cancel);
        }

        // The download took no lock, so another command may have added the name by now.
        using var station = opening.ToChangeAtOnce();
        RequireFree(name, location, station.Catalogues, station.Apps, request);
        station.Records.AddCatalogue(result.Catalogue);
        return result;
    }

    private static void RequireFree(
        CatalogueName name, string location, KnownCatalogues catalogues, InstalledApps apps, AddCatalogueRequest request)
    {
        if (catalogues.All().FirstOrDefault(known => known.Name == name) is { } taken)
        {
            throw new Problem(
                ProblemCode.Refused, $"there is a catalogue {taken.Name} already", $"it is at {taken.Location}",
                $"{NextCommand.Create("catalogue drop", taken.Name.Text)}, or choose another name").ToException();
        }

        new CatalogueTakeOver(apps, request.TakesOver).Require(new RegisteredCatalogue(name, location));
    }

    private async Task<RefreshResult> DownloadAsync(
        AddCatalogueRequest request, CatalogueName name, string location, OpenRoot station, CancellationToken cancel)
    {
        var catalogue = new RegisteredCatalogue(name, location)
        {
            Trust = await TrustAsync(request, location, station, cancel),
            Mirrors = [.. request.Mirrors.Select(CatalogueRefresh.Normalise)],
        };
        if (catalogue.Mirrors.Count > 0 && catalogue.Trust.Root is null)
            throw new Problem(
                ProblemCode.Refused, $"the catalogue {name} is not signed and can have no mirrors",
                "a change made by a mirror would go unnoticed", "leave out --mirror").ToException();
        var result = (await station.Catalogues.RefreshAsync([catalogue], cancel))[0];
        if (result.Problem is { } problem)
            throw (problem with
            {
                Why = Joined(problem.Why, "the catalogue has not been added"),
                Remedy = problem.Code == ProblemCode.NotVerified && catalogue.Trust.Root == station.Records.RootOf(name)
                    && request.Trust is null && catalogue.Trust.Root is not null
                    ? $"it is checked against the root that it had here before; if the maintainer started again with "
                        + "new keys, add --trust with "
                        + "the new root"
                    : problem.Remedy,
            }).ToException();
        return result;
    }

    /// <summary>Why the catalogue is believed: under a root that was named or that the user has looked at.</summary>
    private async Task<CatalogueTrust> TrustAsync(
        AddCatalogueRequest request, string location, OpenRoot station, CancellationToken cancel)
    {
        try
        {
            if (request.Trust is { } named) return CatalogueTrust.FromRoot(Named(named, station.Trust));
            var before = station.Records.RootOf(request.Name);
            station.Remote.Admit(request.Name, location);
            if (!CatalogueSources.IsPublished(location)
                || await RootAtAsync(location, request.AllowsUnsigned, station.Remote, cancel) is not { } bytes)
            {
                if (Address.Is(location)) await RequireOneAsync(location, station.Remote, cancel);
                return CatalogueAdmission.WithoutSignature(request.Name, location, before, request.AllowsUnsigned);
            }

            if (before is not null) return CatalogueTrust.FromRoot(before);
            var offered = new OfferedRoot(
                request.Name, Sha256Digest.FromBytes(SHA256.HashData(bytes)),
                new TrustedMetadata(bytes, new SignatureCheck(), session.Now).Root);
            if (!session.Confirm.CanAsk)
                throw new Problem(
                    ProblemCode.Refused, $"the catalogue {request.Name} is signed, and you have not said which root to trust",
                    $"it offers the root {offered.Digest}",
                    $"compare that with what its maintainer says, then add --trust {offered.Digest}").ToException();
            return session.Confirm.MayTrust(offered, cancel)
                ? CatalogueTrust.FromRoot(station.Trust.Trust(bytes))
                : throw new Problem(
                    ProblemCode.Interrupted, $"the root of {request.Name} is not trusted",
                    "nothing has been changed").ToException();
        }
        catch (TrustException fault)
        {
            throw new Problem(
                ProblemCode.NotVerified, $"the root of {request.Name} cannot be trusted: {fault.Check}", fault.Why,
                "tell its maintainer").ToException(fault);
        }
    }

    private Sha256Digest Named(string named, TrustStore store)
    {
        if (Sha256Digest.TryParse(named, out var digest)) return digest;
        var path = session.Host.FullPath(named);
        return File.Exists(path) && new FileInfo(path).Length <= MostRoot
            ? store.Trust(File.ReadAllBytes(path))
            : throw new Problem(
                ProblemCode.NothingMatched, $"there is no root {named}",
                remedy: "--trust takes the root's file, or its SHA-256 of 64 hexadecimal digits").ToException();
    }

    /// <summary>The root that a location offers; null where it is not signed.</summary>
    private static async Task<byte[]?> RootAtAsync(
        string location, bool allowsUnsigned, RemoteFiles remote, CancellationToken cancel)
    {
        try
        {
            return await remote.FetchAsync(
                new Uri(CatalogueSources.AddressOf(location), TrustFolder.Root), MostRoot, cancel);
        }
        catch (Exception fault) when (SourceFault.IsMissing(fault, isProbed: allowsUnsigned))
        {
            return null;
        }
        catch (Exception fault) when (IoProblems.IsExpected(fault))
        {
            var problem = IoProblems.ToProblem(fault, $"the catalogue at {location} cannot be read");
            throw (problem with { Why = Joined(problem.Why, "the catalogue has not been added") }).ToException(fault);
        }
    }

    /// <summary>An address that leads nowhere is a wrong address, and not a catalogue without signatures.</summary>
    /// <exception cref="ProblemException">There is no catalogue.</exception>
    private static async Task RequireOneAsync(string location, RemoteFiles remote, CancellationToken cancel)
    {
        try
        {
            await remote.FetchAsync(
                new Uri(CatalogueSources.AddressOf(location), CatalogueDocument.FileName), CatalogueDocument.MaxSize, cancel);
        }
        catch (Exception fault) when (IoProblems.IsExpected(fault))
        {
            var isMissing = SourceFault.IsMissing(fault);
            var problem = IoProblems.ToProblem(
                fault, isMissing ? $"there is no catalogue at {location}" : $"the catalogue at {location} cannot be read");
            throw (problem with
            {
                Why = Joined(problem.Why, "the catalogue has not been added"),
                Remedy = isMissing
                    ? $"check the address: it must lead to the folder that holds {CatalogueDocument.FileName}"
                    : problem.Remedy,
            }).ToException(fault);
        }
    }

    private static string Joined(string why, string state) => why.Length == 0 ? state : $"{why}; {state}";
}
