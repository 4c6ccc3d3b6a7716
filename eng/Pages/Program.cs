using AmberCrate.Core.Cards;

// Writes those parts of the documentation anew that follow from the code: the tables of keys in docs/formats/app-card.md, each
// between the line that names it and the next "<!-- end -->". Run it with eng/pages.
var page = Path.Combine(args[0], "docs", "formats", "app-card.md");
var text = File.ReadAllText(page);
foreach (var (name, markdown) in CardDocumentation.Tables)
{
    var begin = $"<!-- keys: {name} -->\n";
    var from = text.IndexOf(begin, StringComparison.Ordinal);
    if (from < 0)
    {
        Console.Error.WriteLine($"{page}: the line \"{begin.TrimEnd()}\" is missing. Put it, and \"<!-- end -->\" behind it, "
            + "where the table shall stand.");
        return 1;
    }

    from += begin.Length;
    var to = text.IndexOf("<!-- end -->", from, StringComparison.Ordinal);
    text = text[..from] + markdown + "\n" + text[to..];
}

File.WriteAllText(page, text);
return 0;
