using System.Text;
using AmberCrate.Cli.Shared;
using AmberCrate.Cli.Tables;
using AmberCrate.Cli.Texts;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Catalogues;

namespace AmberCrate.Cli.Publishing;

/// <summary>The page of one app: what its card says, its releases, and the command that installs it.</summary>
/// <param name="settings">What the catalogue says about itself.</param>
/// <param name="pictures">For each picture that is beside the cards, its path in the published folder.</param>
internal sealed class SiteAppPage(CatalogueSettings settings, IReadOnlyDictionary<string, string> pictures)
{
    private const string Up = "../../";

    /// <summary>The content.</summary>
    public string BodyOf(AppCard card)
    {
        var newest = FollowChoice.NewestOf(card);
        var body = new StringBuilder();
        body.Append($"<header><p><a href=\"{Up}index.html\">{Page.Text(settings.Title)}</a></p>\n"
            + $"<h1>{Page.Text(card.Name)}</h1>\n<p>{Page.Text(card.Summary)}</p></header>\n<main>\n");
        if (newest is null) body.Append("<p><span class=\"off\">Every release has been withdrawn.</span></p>\n");
        else Command(body, card);
        foreach (var picture in card.Screenshots) Picture(body, card, picture);
        foreach (var paragraph in (card.Description ?? "").Split("\n\n", StringSplitOptions.RemoveEmptyEntries))
            body.Append($"<p>{Page.Text(paragraph)}</p>\n");
        Facts(body, card);
        Releases(body, card);
        Languages(body, card);
        return body.Append("</main>\n").ToString();
    }

    private void Command(StringBuilder body, AppCard card) => body.Append($"""
        <h2>Install it</h2>
        <pre id="command">acrate install {settings.SuggestedName}:{card.Id}</pre>
        <p class="do"><button type="button" data-copies="command" hidden>Copy the command</button>
        <a href="{Up}index.html#add={card.Id}">Put it in my crate</a></p>
        <p id="done" role="status"></p>
        <p class="quiet">For machines that know this catalogue as {settings.SuggestedName}.</p>

        """);

    private void Picture(StringBuilder body, AppCard card, Screenshot picture)
    {
        var caption = picture.Caption is { } said ? Page.Text(said) : $"{Page.Text(card.Name)} at work";
        if (picture.BesideCards is { } path)
            body.Append($"<figure><img src=\"{Up}{pictures[path]}\" alt=\"{caption}\" loading=\"lazy\">"
                + $"<figcaption class=\"quiet\">{caption}</figcaption></figure>\n");
        else body.Append($"<p>Picture elsewhere: {Link(picture.Address, caption)}</p>\n");
    }

    /// <summary>A link that leaves; it says where to.</summary>
    private static string Link(string address, string text)
    {
        var host = Uri.TryCreate(address, UriKind.Absolute, out var uri) ? $" ({Page.Text(uri.Host)})" : "";
        return $"<a href=\"{Page.Text(address)}\" rel=\"noreferrer noopener\">{text}</a>{host}";
    }

    private static void Facts(StringBuilder body, AppCard card)
    {
        body.Append("<h2>Facts</h2>\n<dl>\n");
        Fact("id", $"<code>{card.Id}</code>");
        foreach (var (name, value) in AppFacts.List(card))
            Fact(name, name == "homepage" && card.Homepage is { } page ? Link(page, Page.Text(page)) : Shown(value));
        if (card.MimeTypes.Count > 0) Fact("opens", Page.Text(string.Join(", ", card.MimeTypes)));
        if (card.Needs.Count > 0) Fact("needs", string.Join(", ", card.Needs.Select(ToApp)));
        if (card.Conflicts.Count > 0) Fact("not beside", string.Join(", ", card.Conflicts.Select(ToApp)));
        body.Append("</dl>\n");

        void Fact(string name, string html) => body.Append($"<dt>{name}</dt><dd>{html}</dd>\n");
    }

    /// <summary>What the app is called elsewhere, for who reads the page in a language of their own.</summary>
    private static void Languages(StringBuilder body, AppCard card)
    {
        var said = card.Translations.Where(text => text.Name is not null || text.Summary is not null).ToList();
        if (said.Count == 0) return;
        body.Append($"<details><summary>In {Words.Count(said.Count, "other language")}</summary>\n<dl>\n");
        foreach (var text in said)
        {
            var code = Page.Text(text.Language.Split('@')[0].Replace('_', '-'));
            var parts = new[] { text.Name, text.Summary }.OfType<string>().Select(Page.Text);
            body.Append($"<dt>{Page.Text(text.Language)}</dt><dd lang=\"{code}\">{string.Join(": ", parts)}</dd>\n");
        }

        body.Append("</dl></details>\n");
    }

    private static string Shown(Cell cell) => cell.Tone switch
    {
        Tone.Attention => $"<span class=\"some\">{Page.Text(cell.Text)}</span>",
        Tone.Quiet => $"<span class=\"quiet\">{Page.Text(cell.Text)}</span>",
        Tone.Plain or Tone.Strong => Page.Text(cell.Text),
    };

    /// <summary>A related app. It may come from another catalogue, so it is no link.</summary>
    private static string ToApp(RelatedApp app) => Page.Text(app.ToString());

    private static void Releases(StringBuilder body, AppCard card)
    {
        body.Append($"<h2>{Words.Count(card.Releases.Count, "release")}</h2>\n"
            + "<div class=\"wide\"><table class=\"stack\"><thead><tr>");
        foreach (var head in new[] { "Version", "Line", "Date", "Files", "What is new" })
            body.Append($"<th scope=\"col\">{head}");
        body.Append("</thead><tbody>\n");
        foreach (var release in card.Releases)
        {
            body.Append($"<tr><th scope=\"row\">{Page.Text(release.Version.Text)}<td>{Page.Text(release.Line.Name)}"
                + $"<td>{PlainText.Date(release.Date)}<td>");
            body.AppendJoin("<br>", release.Artifacts.Select(FileOf)).Append("<td>");
            if (release.Withdrawn is { } why) body.Append($"<span class=\"off\">withdrawn</span> {Page.Text(why)} ");
            if (release.Urgency is { } urgency)
                body.Append($"<span class=\"some\">{CardWords.Urgencies.WordOf(urgency)} urgency</span> ");
            body.Append(Page.Text(release.Notes?.Trim())).Append('\n');
        }

        body.Append("</tbody></table></div>\n");
    }

    private static string FileOf(Artifact artifact)
    {
        var from = artifact.Location.Absolute is { } elsewhere ? $" from {Page.Text(elsewhere.Host)}" : "";
        return $"{Page.Text(artifact.Platform.ToString())}, {CardWords.Formats.WordOf(artifact.Format)}, "
            + $"{Words.Size(artifact.DownloadSize)}{from}<br><code>sha256 {artifact.Sha256.Hex}</code>";
    }
}
