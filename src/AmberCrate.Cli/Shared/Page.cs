using System.Net;
using System.Security.Cryptography;
using System.Text;
using AmberCrate.Cli.Tables;

namespace AmberCrate.Cli.Shared;

/// <summary>
/// Makes pages that stand alone: nothing is loaded from elsewhere, they work without script, and they can be printed. Foreign
/// text comes in by <see cref="Text"/> only, and the page's own policy keeps any other script from running.
/// </summary>
internal static class Page
{
    // Two looks, by what the reader's system prefers. Every pair of text and ground has a contrast of at least 4.5 to 1.
    private const string Style = """
        :root{color-scheme:light dark;--ground:#fbf8f2;--sheet:#fff;--ink:#2a2520;--quiet:#6a6055;--line:#ddd3c4;--mark:#8a4b00;
        --tint:#fbecd2;--bad:#8f2413;--badtint:#fae3dc}
        @media(prefers-color-scheme:dark){:root{--ground:#1b1815;--sheet:#24201c;--ink:#ece5da;--quiet:#b0a595;--line:#423a31;
        --mark:#f0b45a;--tint:#3b2f1c;--bad:#f59a86;--badtint:#45251e}}
        *{box-sizing:border-box}
        body{margin:0 auto;max-width:80rem;padding:1.5rem 1rem 3rem;background:var(--ground);color:var(--ink);
        font:1rem/1.5 system-ui,sans-serif}
        h1{font-size:1.6rem;line-height:1.2;margin:0 0 .25rem}h2{font-size:1.1rem;margin:2rem 0 .5rem}
        p{margin:.25rem 0}.quiet{color:var(--quiet)}.verdict{font-size:1.1rem;color:var(--mark);font-weight:600}
        .wide{overflow-x:auto;margin:1rem 0;background:var(--sheet);border:1px solid var(--line);border-radius:.4rem}
        table{border-collapse:collapse;width:100%;font-variant-numeric:tabular-nums}
        th,td{text-align:left;padding:.35rem .7rem;border-bottom:1px solid var(--line);vertical-align:top}
        thead th{position:sticky;top:0;background:var(--sheet);color:var(--quiet);font-weight:600;white-space:nowrap}
        tbody th{font-weight:600;white-space:nowrap}tbody tr:last-child>*{border-bottom:0}.n{text-align:right}
        .bad td:first-child,.off{color:var(--bad);background:var(--badtint)}.some{color:var(--mark);background:var(--tint)}
        button{font:inherit;color:inherit;background:none;border:0;padding:0;font-weight:600;cursor:pointer;text-align:inherit}
        button::after{content:" \21c5";color:var(--quiet)}[aria-sort=ascending] button::after{content:" \2191"}
        [aria-sort=descending] button::after{content:" \2193"}
        input{font:inherit;color:inherit;background:var(--sheet);border:1px solid var(--quiet);border-radius:.3rem;
        padding:.35rem .6rem;width:100%;max-width:24rem}label{display:block;margin:1rem 0 0}
        :focus-visible{outline:3px solid var(--mark);outline-offset:2px}details{margin:1rem 0}summary{cursor:pointer}
        .tools{display:none}.scripted .tools{display:block}
        b.off,b.some{font-weight:600;padding:0 .35rem;border-radius:.25rem;white-space:nowrap}
        @media(max-width:40rem){body{padding:1rem .6rem}th,td{padding:.3rem .45rem}
        .stack thead{position:absolute;clip-path:inset(50%)}
        .stack tr{display:block;border-bottom:1px solid var(--line);padding:.4rem}
        .stack tr>*{display:block;border:0;padding:.1rem .2rem;text-align:left}}
        @media print{body{max-width:none;background:#fff;color:#000}.tools{display:none!important}.wide{overflow:visible;border:0}
        thead th{position:static}tr{break-inside:avoid}}
        """;

    /// <summary>The page.</summary>
    /// <param name="title">What the window is called.</param>
    /// <param name="body">The content; foreign text in it has gone through <see cref="Text"/>.</param>
    /// <param name="script">What makes it more comfortable; null for nothing.</param>
    public static string Render(string title, string body, string? script)
    {
        var policy = "default-src 'none'; base-uri 'none'; form-action 'none'; "
            + $"style-src '{DigestOf(Style)}'{(script is null ? "" : $"; script-src '{DigestOf(script)}'")}";
        return "<!doctype html>\n<html lang=en><meta charset=utf-8>\n"
            + $"<meta http-equiv=Content-Security-Policy content=\"{policy}\">\n"
            + "<meta name=viewport content=\"width=device-width,initial-scale=1\">\n"
            + $"<title>{Text(title)}</title>\n<style>{Style}</style>\n<body>\n<main>\n{body}</main>\n"
            + (script is null ? "" : $"<script>{script}</script>\n") + "</html>\n";
    }

    /// <summary>Foreign text, made safe: characters that steer a terminal are shown, and what HTML would take for its own is
    /// not.</summary>
    public static string Text(string? text) => WebUtility.HtmlEncode(Printable.Line(text ?? ""));

    private static string DigestOf(string text) =>
        $"sha256-{Convert.ToBase64String(SHA256.HashData(Encoding.UTF8.GetBytes(text)))}";
}
