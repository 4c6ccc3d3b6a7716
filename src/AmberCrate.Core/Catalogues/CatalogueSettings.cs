using AmberCrate.Core.Formats;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Searching;
using AmberCrate.Core.Toml;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Catalogues;

/// <summary>What a folder of cards says about itself in its <c>catalogue.toml</c>.</summary>
/// <param name="Title">The catalogue's name for people.</param>
/// <param name="Summary">One line about it; null where the file is silent.</param>
/// <param name="Homepage">Its page; null where the file is silent.</param>
public sealed record CatalogueSettings(string Title, string? Summary = null, string? Homepage = null)
{
    /// <summary>The name under which machines may know it, which its pages suggest; null where the file is silent.</summary>
    public CatalogueName? Name { get; init; }

    /// <summary>What people of its trade want to do, and the apps that do it: they help searches.</summary>
    public IReadOnlyList<Purpose> Purposes { get; init; } = [];

    /// <summary>The file's name.</summary>
    public const string FileName = "catalogue.toml";

    /// <summary>The version of the format that this program reads.</summary>
    public const int FormatVersion = 1;

    /// <summary>The name that is suggested: as the file says, otherwise made of the title.</summary>
    public CatalogueName SuggestedName
    {
        get
        {
            var plain = SearchText.Fold(Title).Replace(' ', '-');
            var allowed = string.Concat(plain.Where(letter => char.IsAsciiLetterLower(letter) || char.IsAsciiDigit(letter)
                || letter == '-')).Trim('-');
            return Name ?? (CatalogueName.TryParse(allowed.Length > 40 ? allowed[..40].Trim('-') : allowed, out var name)
                ? name
                : CatalogueName.Parse("catalogue"));
        }
    }

    private static CatalogueName? ReadName(TableReader table)
    {
        if (table.Text("name") is not { } text) return null;
        if (CatalogueName.TryParse(text, out var name)) return name;
        table.AddFault("name", $"expected {CatalogueName.Expected}, found \"{text}\"");
        return null;
    }

    /// <summary>Reads the file; null when faults were added.</summary>
    public static CatalogueSettings? Read(string text, string file, ICollection<FormatFault> faults)
    {
        var before = faults.Count;
        if (TomlText.Read(text, file, faults) is not { } root) return null;
        var table = new TableReader(root, file, "", faults);
        table.Number("catalogue", FormatVersion, FormatVersion, required: true);
        var settings = new CatalogueSettings(
            table.Text("title", required: true, maxLength: 100) ?? "", table.Text("summary", maxLength: 200),
            table.Text("homepage"))
        {
            Name = ReadName(table), Purposes = PurposeList.Read(table),
        };
        table.RefuseUnknownKeys();
        return faults.Count == before ? settings : null;
    }
}
