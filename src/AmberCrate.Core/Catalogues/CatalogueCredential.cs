using AmberCrate.Core.Formats;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Toml;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Catalogues;

/// <summary>
/// What a private catalogue asks for: a bearer token, or a user with a password. Never shown: it has no text form.
/// </summary>
/// <param name="Token">The bearer token; null for a user with a password.</param>
/// <param name="User">The user.</param>
/// <param name="Password">The password.</param>
public sealed record CatalogueCredential(string? Token, string? User, string? Password)
{
    /// <summary>The version of the file that this program reads.</summary>
    public const int FormatVersion = 1;

    private const int MaxToken = 8000;

    /// <summary>What there must be, for messages.</summary>
    public const string Expected = "either a token, or a user and a password";

    /// <summary>One of either, never both; null where it is neither.</summary>
    public static CatalogueCredential? FindFor(string? token, string? user, string? password) =>
        token is { Length: > 0 } && user is null && password is null ? new CatalogueCredential(token, null, null)
        : token is null && user is { Length: > 0 } && password is not null && !user.Contains(':', StringComparison.Ordinal)
            ? new CatalogueCredential(null, user, password)
        : null;

    /// <summary>Reads a credentials file: a table for each catalogue. Faults name lines and keys, never a value.</summary>
    public static IReadOnlyDictionary<CatalogueName, CatalogueCredential> Read(
        string text, string file, ICollection<FormatFault> faults)
    {
        var found = new List<FormatFault>();
        var credentials = new Dictionary<CatalogueName, CatalogueCredential>();
        if (TomlText.Read(text, file, found) is { } root)
        {
            var table = new TableReader(root, file, "", found);
            table.Number("credentials", FormatVersion, FormatVersion, required: true);
            foreach (var key in root.Entries.Keys.Where(key => key != "credentials"))
            {
                if (table.Child(key) is not { } child) continue;
                var credential = FindFor(child.Text("token", maxLength: MaxToken), child.Text("user"), child.Text("password"));
                child.RefuseUnknownKeys();
                if (credential is null) table.AddFault(key, Expected);
                else if (CatalogueName.TryParse(key, out var name)) credentials.Add(name, credential);
                else table.AddFault(key, CatalogueName.Expected);
            }
        }

        foreach (var fault in found)
            faults.Add(fault with
            {
                Message = fault.Key.Length == 0 ? "expected TOML" : "not as docs/formats/catalogue-access.md describes it",
            });
        return credentials;
    }

    /// <inheritdoc/>
    public override string ToString() => "(credentials)";
}
