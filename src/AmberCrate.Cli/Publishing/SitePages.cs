using System.Reflection;
using System.Security.Cryptography;
using System.Text;
using AmberCrate.Cli.Shared;
using AmberCrate.Cli.Texts;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Searching;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Publishing;

namespace AmberCrate.Cli.Publishing;

/// <summary>
/// The pages of a catalogue: one on which apps are looked for, ticked and taken away, one an app, and a plain list for browsers
/// without script.
/// </summary>
internal sealed class SitePages : IPageMaker
{
    private const int DigestLetters = 16;

    /// <inheritdoc/>
    public IEnumerable<PageFile> Make(PageContent content)
    {
        var (settings, cards) = (content.Document.Settings, content.Cards);
        var (style, icon) = (Named("site", ".css", Asset("site.css")), Named("icon", ".svg", Asset("icon.svg")));
        var (ranking, site, page) = (Script("ranking"), Script("site"), Script("page"));
        var facts = Named("apps", ".js", SiteData.Facts(cards, content.Document.Popularity));
        var texts = Named("words", ".js", SiteData.Texts(cards, [.. PurposeList.ReadOwn(), .. settings.Purposes]));
        foreach (var file in new[] { style, icon, ranking, site, page, facts, texts }) yield return file;
        var languages = new SortedDictionary<string, string>(StringComparer.Ordinal);
        foreach (var language in cards.SelectMany(card => card.Translations).Select(said => said.Language).Distinct()
            .Where(language => LanguageTag.ListFallbacks(language).Count > 0))
        {
            var local = Named($"local-{language.Replace('@', '-')}", ".js", SiteData.Local(cards, language));
            languages[language] = local.Path;
            yield return local;
        }

        var ofApp = new SitePage("../../", style.Path, icon.Path);
        var apps = new SiteAppPage(settings, content.Pictures);
        foreach (var card in cards)
            yield return new PageFile(
                $"pages/apps/{card.Id}.html", ofApp.Render($"{card.Name} · {settings.Title}", apps.BodyOf(card), [page.Path]));
        yield return new PageFile("pages/all.html", new SitePage("../", style.Path, icon.Path).Render(
            $"All apps · {settings.Title}", AllApps(settings.Title, cards), []));
        yield return new PageFile(PageFile.First, new SitePage("", style.Path, icon.Path).Render(
            settings.Title, First(content), [ranking.Path, site.Path, facts.Path, texts.Path],
            $" data-name=\"{settings.SuggestedName}\" data-root=\"{content.Root?.Hex}\" "
                + $"data-title=\"{Page.Text(settings.Title)}\" data-languages=\"{Page.Text(Json(languages))}\""));
    }

    private static string AllApps(string title, IReadOnlyList<AppCard> cards)
    {
        var body = new StringBuilder();
        body.Append($"<header><p><a href=\"../index.html\">{Page.Text(title)}</a></p>\n<h1>All apps</h1></header>\n"
            + "<main><ul class=\"plain\">\n");
        foreach (var card in cards.OrderBy(card => SearchText.Fold(card.Name), StringComparer.Ordinal))
            body.Append($"<li><a href=\"apps/{card.Id}.html\">{Page.Text(card.Name)}</a> {Page.Text(card.Summary)}</li>\n");
        return body.Append("</ul></main>\n").ToString();
    }

    private static string First(PageContent content)
    {
        var settings = content.Document.Settings;
        var popular = content.Document.Popularity is { } popularity
            ? $"<option value=\"popular\">on most of {Words.Count(popularity.Machines, "counted machine")}</option>"
            : "";
        return $"""
            <header>
            <h1>{Page.Text(settings.Title)}</h1>
            {(settings.Summary is { } summary ? $"<p>{Page.Text(summary)}</p>" : "")}
            </header>
            <noscript><p>Looking for apps here takes script. <a href="pages/all.html">All apps, without script</a></p></noscript>
            <main class="columns">
            <section aria-label="Apps">
            <form id="asked" role="search">
            <label for="find">What is it called, or what is it for?</label>
            <input id="find" type="search" autocomplete="off" spellcheck="false" maxlength="200">
            <div class="narrow">
            <label>Kind <select id="kind"><option value="">any</option></select></label>
            <label>Category <select id="category"><option value="">any</option></select></label>
            <label>Licence <select id="licence"><option value="">any</option></select></label>
            <label>Order <select id="sort"><option value="">best match</option><option value="name">name</option>
            <option value="newest">newest release</option>{popular}</select></label>
            <label hidden>Language <select id="language"><option value="" lang="en">English</option></select></label>
            <label class="check"><input id="reviewed" type="checkbox"> only reviewed apps</label>
            </div>
            </form>
            <p id="said" role="status"></p>
            <ol id="apps"></ol>
            <button id="more" type="button" hidden>Show more</button>
            </section>
            <aside id="crate" tabindex="-1" aria-label="My crate">
            <h2>My crate <span id="count" class="quiet"></span></h2>
            <p id="empty" class="quiet">Tick apps, and take them away as a bundle, a list or a command.</p>
            <ul id="taken"></ul>
            <div id="away" hidden>
            <fieldset><legend>Take them away as</legend>
            <label><input type="radio" name="way" value="bundle" checked>bundle</label>
            <label><input type="radio" name="way" value="list">list</label>
            <label><input type="radio" name="way" value="command">command</label>
            </fieldset>
            <label for="title">Name of the file</label><input id="title" type="text" maxlength="100" value="my crate">
            <label for="catalogue">Name of this catalogue on the machine</label>
            <input id="catalogue" type="text" maxlength="40" value="{settings.SuggestedName}" spellcheck="false">
            <p class="do"><button id="save" type="button">Save</button> <button id="copy" type="button">Copy</button>
            <button id="clear" type="button">Empty the crate</button></p>
            <p id="done" role="status"></p>
            <pre id="text" tabindex="0" role="region" aria-label="What you take away"></pre>
            </div>
            </aside>
            </main>
            <a id="jump" href="#crate">My crate is empty</a>

            """;
    }

    /// <summary>The path of the texts of each language; neither holds a sign that JSON would have to escape.</summary>
    private static string Json(IEnumerable<KeyValuePair<string, string>> paths) =>
        $"{{{string.Join(',', paths.Select(pair => $"\"{pair.Key}\":\"{pair.Value}\""))}}}";

    private static PageFile Script(string name) => Named(name, ".js", Asset($"{name}.js"));

    private static byte[] Asset(string name)
    {
        using var stream = Assembly.GetExecutingAssembly().GetManifestResourceStream($"AmberCrate.Cli.Site.{name}")!;
        var bytes = new byte[stream.Length];
        stream.ReadExactly(bytes);
        return bytes;
    }

    /// <summary>A file with a digest of its content in its name, so that a browser may keep it for ever.</summary>
    private static PageFile Named(string name, string ending, byte[] content) =>
        new($"pages/{name}-{Sha256Digest.FromBytes(SHA256.HashData(content)).Hex[..DigestLetters]}{ending}", content);
}
