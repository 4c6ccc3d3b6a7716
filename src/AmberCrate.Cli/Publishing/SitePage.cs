using AmberCrate.Cli.Shared;

namespace AmberCrate.Cli.Publishing;

/// <summary>
/// One page of a catalogue. Its policy allows the scripts, styles and pictures that are beside it, and nothing else: no text of a
/// card can become script, and nothing is loaded from elsewhere. The texts of other languages are scripts, too, which are loaded
/// when they are wanted; only those that the page names can be.
/// </summary>
/// <param name="up">The way from the page to the published folder: empty, or <c>../</c> for each folder.</param>
/// <param name="style">The path of the style sheet.</param>
/// <param name="icon">The path of the icon.</param>
internal sealed class SitePage(string up, string style, string icon)
{
    private const string Policy = "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self'; base-uri 'none'; "
        + "form-action 'none'; require-trusted-types-for 'script'; trusted-types languages";

    /// <summary>The page.</summary>
    /// <param name="title">What the window is called.</param>
    /// <param name="body">The content; foreign text in it has gone through <see cref="Page.Text"/>.</param>
    /// <param name="scripts">The paths of its scripts, which run in this order.</param>
    /// <param name="root">What the page's root element says for them.</param>
    public byte[] Render(string title, string body, IEnumerable<string> scripts, string root = "") =>
        System.Text.Encoding.UTF8.GetBytes($"""
            <!doctype html>
            <html lang="en"{root}>
            <head>
            <meta charset="utf-8">
            <meta http-equiv="Content-Security-Policy" content="{Policy}">
            <meta name="referrer" content="no-referrer">
            <meta name="viewport" content="width=device-width, initial-scale=1">
            <title>{Page.Text(title)}</title>
            <link rel="stylesheet" href="{up}{style}">
            <link rel="icon" href="{up}{icon}">
            {string.Concat(scripts.Select(path => $"<script defer src=\"{up}{path}\"></script>\n"))}</head>
            <body>
            {body}</body>
            </html>

            """);
}
