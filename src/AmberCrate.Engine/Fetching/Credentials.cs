using System.Net.Http.Headers;
using System.Text;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Fetching;

/// <summary>
/// The credentials of private catalogues, from the environment or else from a file that only its owner may read. Each is sent
/// to the host of its own catalogue and to no other, and over an encrypted connection or to this machine only.
/// </summary>
/// <param name="file">The file; it need not be there.</param>
/// <param name="variable">Reads an environment variable.</param>
public sealed class Credentials(string file, Func<string, string?> variable)
{
    private const UnixFileMode OthersMay =
        UnixFileMode.GroupRead | UnixFileMode.GroupWrite | UnixFileMode.GroupExecute | UnixFileMode.OtherRead
            | UnixFileMode.OtherWrite | UnixFileMode.OtherExecute;

    private readonly Lock _guard = new();
    private readonly Dictionary<string, (CatalogueName Name, CatalogueCredential? Credential)> _byOrigin =
        new(StringComparer.Ordinal);
    private IReadOnlyDictionary<CatalogueName, CatalogueCredential>? _inFile;

    /// <summary>Lets a catalogue's credentials be used for its host.</summary>
    /// <exception cref="ProblemException">They cannot be read, or could be read by others.</exception>
    public void Admit(CatalogueName name, string location)
    {
        if (!Uri.TryCreate(location, UriKind.Absolute, out var address) || address.IsFile) return;
        lock (_guard)
        {
            // Where two catalogues are at one host, the first that has credentials speaks for it.
            if (_byOrigin.TryGetValue(OriginOf(address), out var known) && known.Credential is not null) return;
            var credential = FromEnvironment(name) ?? FromFile().GetValueOrDefault(name);
            if (credential is not null && address.Scheme != Uri.UriSchemeHttps && !address.IsLoopback)
            {
                throw new Problem(
                    ProblemCode.Refused, $"the credentials of {name} are not sent to {address.Host}",
                    "the connection would not be encrypted",
                    "use the catalogue's https address, or take its credentials away").ToException();
            }

            _byOrigin[OriginOf(address)] = (name, credential);
        }
    }

    /// <summary>What to send to an address; null where it is not the host of a catalogue with credentials.</summary>
    public AuthenticationHeaderValue? For(Uri address)
    {
        lock (_guard)
        {
            return _byOrigin.TryGetValue(OriginOf(address), out var known) && known.Credential is { } credential
                ? Header(credential)
                : null;
        }
    }

    /// <summary>How to give credentials for a host that has asked for them.</summary>
    public Advice RemedyFor(Uri address)
    {
        lock (_guard)
        {
            if (!_byOrigin.TryGetValue(OriginOf(address), out var known))
                return "the artifact's maintainer must make it readable, or offer it from the catalogue's own host";
            return known.Credential is null
                ? $"put its token into {VariableFor("TOKEN", known.Name)}, or write its credentials into {file}"
                : $"check the credentials of {known.Name}";
        }
    }

    private static string OriginOf(Uri address) => $"{address.Scheme}://{address.IdnHost.ToLowerInvariant()}:{address.Port}";

    private static string VariableFor(string what, CatalogueName name) =>
        $"ACRATE_{what}_{name.Text.ToUpperInvariant().Replace('-', '_')}";

    private static AuthenticationHeaderValue Header(CatalogueCredential credential) => credential.Token is { } token
        ? new AuthenticationHeaderValue("Bearer", token)
        : new AuthenticationHeaderValue(
            "Basic", Convert.ToBase64String(Encoding.UTF8.GetBytes($"{credential.User}:{credential.Password}")));

    private CatalogueCredential? FromEnvironment(CatalogueName name)
    {
        var (token, user, password) = (Set("TOKEN"), Set("USER"), Set("PASSWORD"));
        if (token is null && user is null && password is null) return null;
        var credential = CatalogueCredential.FindFor(token, user, password)
            ?? throw new Problem(
                ProblemCode.BadCommandLine, $"the variables {VariableFor("…", name)} cannot be used",
                $"expected {CatalogueCredential.Expected}").ToException();
        return CanBeSent(credential) ? credential : throw new Problem(
            ProblemCode.BadCommandLine, $"the variables {VariableFor("…", name)} cannot be used",
            "a token is one word of printable letters").ToException();

        string? Set(string what) => variable(VariableFor(what, name)) is { Length: > 0 } value ? value : null;
    }

    private IReadOnlyDictionary<CatalogueName, CatalogueCredential> FromFile() => _inFile ??= ReadFile();

    private IReadOnlyDictionary<CatalogueName, CatalogueCredential> ReadFile()
    {
        if (!File.Exists(file)) return new Dictionary<CatalogueName, CatalogueCredential>();
        if ((File.GetUnixFileMode(file) & OthersMay) != 0)
            throw new Problem(
                ProblemCode.Refused, $"the credentials in {file} are not used", "other users can read or change it",
                $"chmod 600 {file}").ToException();
        var faults = new List<FormatFault>();
        var credentials = CatalogueCredential.Read(TextFile.Read(file, file, faults), file, faults);
        if (faults.Count == 0 && credentials.FirstOrDefault(pair => !CanBeSent(pair.Value)).Key is { } name)
            faults.Add(new FormatFault(file, 1, name.Text, "a token is one word of printable letters"));
        if (faults.Count > 0)
            throw new Problem(
                ProblemCode.NotVerified, $"the credentials in {file} cannot be read",
                remedy: "docs/formats/catalogue-access.md describes the file")
            {
                Details = [.. faults.Select(fault => fault.ToString())],
            }.ToException();
        return credentials;
    }

    /// <summary>A token becomes part of a header, where a line break would begin another one.</summary>
    private static bool CanBeSent(CatalogueCredential credential) =>
        credential.Token?.All(letter => letter is > ' ' and <= '~') != false;
}
