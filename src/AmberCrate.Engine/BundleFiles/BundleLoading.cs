using System.Security.Cryptography;
using AmberCrate.Core.Bundles;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.BundleFiles;

/// <summary>Loads a bundle and all that it builds on.</summary>
/// <param name="shelf">Where bundles come from that are no files.</param>
/// <param name="folder">The base folder of relative paths of the user.</param>
public sealed class BundleLoading(IBundleShelf shelf, string folder)
{
    /// <summary>The largest number of layers on top of each other.</summary>
    public const int MostDeep = 50;

    /// <summary>The most bytes of a bundle.</summary>
    public const int MostBytes = 8 << 20;

    private readonly Dictionary<string, BundleLayer> _loaded = new(StringComparer.Ordinal);

    /// <summary>Loads a bundle.</summary>
    /// <param name="named">What the user named: a file, an address, or <c>catalogue:bundle</c>.</param>
    /// <param name="cancel">Cancels the operation.</param>
    /// <exception cref="ProblemException">A bundle is not there or has faults, or layers build on one another in a
    /// circle.</exception>
    public Task<BundleLayer> LoadAsync(string named, CancellationToken cancel) => LoadAsync(PlaceOf(named), [], cancel);

    private Place PlaceOf(string named)
    {
        if (named == InputFile.Standard) return new Place.OfFile(InputFile.PathOf(named), "standard input", folder);
        if (BundlePlace.IsAddress(named))
            return Uri.TryCreate(named, UriKind.Absolute, out var address) && address.UserInfo.Length == 0
                ? new Place.OfAddress(address)
                : throw new Problem(
                    ProblemCode.BadCommandLine, $"\"{named}\" is not the address of a bundle",
                    "an address cannot carry a user or password; credentials.toml can").ToException();
        var full = Path.GetFullPath(named, folder);
        return BundlePlace.InCatalogue(named) is { } inside && !Path.Exists(full)
            ? new Place.OfCatalogue(inside.Catalogue, inside.Name)
            : new Place.OfFile(full, named, Path.GetDirectoryName(full) ?? "/");
    }

    private async Task<BundleLayer> LoadAsync(Place place, IReadOnlyList<Step> way, CancellationToken cancel)
    {
        cancel.ThrowIfCancellationRequested();
        if (way.FirstOrDefault(step => step.Place == place) is not null) throw Circle(place, way).ToException();
        if (way.Count > MostDeep)
            throw new Problem(
                ProblemCode.NotVerified, $"{way[0].Place.Name} builds on more than {MostDeep} layers",
                $"the last is {place.Name}", "make one bundle of several").ToException();
        if (_loaded.TryGetValue(place.Key, out var known)) return known;
        var text = await ReadAsync(place, way, cancel);
        var bundle = BundleFile.Parse(text, place.Name);
        bundle = place.Completed(bundle with { Catalogues = [.. bundle.Catalogues.Select(place.Located)] });
        var bases = new List<BundleLayer>();
        foreach (var below in bundle.BuildsOn)
            bases.Add(await LoadAsync(place.Below(below.Place), [.. way, new Step(place, below.Line)], cancel));
        return _loaded[place.Key] = new BundleLayer(place.Name, bundle, bases)
        {
            Sha256 = Sha256Digest.FromBytes(SHA256.HashData(text)),
        };
    }

    private async Task<byte[]> ReadAsync(Place place, IReadOnlyList<Step> way, CancellationToken cancel)
    {
        try
        {
            return place switch
            {
                Place.OfFile file => BundleFile.ReadBytes(file.Path, file.Name),
                Place.OfAddress address => await shelf.FetchAsync(address.Address, cancel),
                Place.OfCatalogue inside => shelf.Find(inside.Catalogue, inside.BundleName)
                    ?? throw new Problem(
                        ProblemCode.NothingMatched, shelf.LocationOf(inside.Catalogue) is null
                            ? $"there is no catalogue \"{inside.Catalogue}\", so no bundle {place.Name}"
                            : $"the catalogue {inside.Catalogue} has no bundle \"{inside.BundleName}\"",
                        remedy: NextCommand.Create("search", "--bundles")).ToException(),
                _ => throw new ArgumentOutOfRangeException(nameof(place)),
            };
        }
        catch (Exception fault) when (IoProblems.IsExpected(fault))
        {
            var problem = IoProblems.ToProblem(fault, $"the bundle {place.Name} cannot be read");
            if (place is Place.OfAddress) problem = problem with { Remedy = "check the address, and try again" };
            throw (way.Count == 0 ? problem : problem with
            {
                What = $"{way[^1].Place.Name}:{way[^1].Line} builds on {place.Name}, which cannot be read",
                Why = problem.Why.Length > 0 ? problem.Why : problem.What,
            }).ToException(fault);
        }
    }

    private static Problem Circle(Place place, IReadOnlyList<Step> way) => new(
        ProblemCode.NotVerified, $"{place.Name} builds on itself", "nothing has been changed", "take one of these lines out")
    {
        Details =
        [
            .. way.SkipWhile(step => step.Place != place).Select((step, at) => Advice.Combine(
                $"{step.Place.Name}:{step.Line} builds on {NextOf(way, step)?.Name ?? place.Name}")),
        ],
    };

    private static Place? NextOf(IReadOnlyList<Step> way, Step step)
    {
        var at = way.ToList().IndexOf(step) + 1;
        return at < way.Count ? way[at].Place : null;
    }

    private sealed record Step(Place Place, int Line);

    /// <summary>Where a bundle lies, and how what it names is found from there.</summary>
    /// <param name="Key">Tells it from all others.</param>
    /// <param name="Name">What messages call it.</param>
    private abstract record Place(string Key, string Name)
    {
        public virtual bool Equals(Place? other) => other?.Key == Key;

        public override int GetHashCode() => Key.GetHashCode(StringComparison.Ordinal);

        /// <summary>A layer that a bundle here builds on.</summary>
        public Place Below(string text) => BundlePlace.IsAddress(text) ? new OfAddress(new Uri(text))
            : BundlePlace.InCatalogue(text) is { } inside ? new OfCatalogue(inside.Catalogue, inside.Name)
            : Beside(text);

        /// <summary>A catalogue of a bundle here, with its location as a whole.</summary>
        public BundleCatalogue Located(BundleCatalogue catalogue) =>
            Address.Is(catalogue.Location)
                ? catalogue
                : catalogue with { Location = LocationOf(catalogue.Location) };

        /// <summary>A bundle here with what goes without saying.</summary>
        public virtual Bundle Completed(Bundle bundle) => bundle;

        protected abstract Place Beside(string file);

        protected abstract string LocationOf(string relative);

        public sealed record OfFile(string Path, string Shown, string Folder) : Place(Path, Shown)
        {
            protected override Place Beside(string file)
            {
                var full = System.IO.Path.GetFullPath(file, Folder);
                var shown = System.IO.Path.Combine(System.IO.Path.GetDirectoryName(Shown) ?? "", file);
                return new OfFile(full, shown, System.IO.Path.GetDirectoryName(full) ?? "/");
            }

            protected override string LocationOf(string relative) => System.IO.Path.GetFullPath(relative, Folder);
        }

        public sealed record OfAddress(Uri Address) : Place(Address.AbsoluteUri, Address.AbsoluteUri)
        {
            protected override Place Beside(string file) => new OfAddress(new Uri(Address, Uri.EscapeDataString(file)
                .Replace("%2F", "/", StringComparison.Ordinal)));

            protected override string LocationOf(string relative) => new Uri(Address, relative).AbsoluteUri;
        }

        public sealed record OfCatalogue(CatalogueName Catalogue, string BundleName)
            : Place($"{Catalogue}:{BundleName}", $"{Catalogue}:{BundleName}")
        {
            /// <summary>An entry without a catalogue means an app of the catalogue that carries the bundle.</summary>
            public override Bundle Completed(Bundle bundle) => bundle with
            {
                Apps =
                [
                    .. bundle.Apps.Select(app => app.Reference.Catalogue is not null ? app : app with
                    {
                        Reference = app.Reference with { Catalogue = Catalogue },
                    }),
                ],
            };

            protected override Place Beside(string file) => new OfCatalogue(
                Catalogue, file.EndsWith(Bundle.FileEnding, StringComparison.Ordinal)
                    ? file[..^Bundle.FileEnding.Length]
                    : file);

            protected override string LocationOf(string relative) => relative;
        }
    }
}
