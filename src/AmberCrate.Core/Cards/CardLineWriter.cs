using System.Buffers;
using System.Text.Encodings.Web;
using System.Text.Json;

namespace AmberCrate.Core.Cards;

/// <summary>Writes a card as a line of JSON; keys without a value are left out.</summary>
internal static class CardLineWriter
{
    private const int UsualLength = 1 << 12;

    /// <summary>
    /// Letters of every script are written as they are: catalogues are UTF-8 and are never put into a web page unescaped.
    /// </summary>
    private static readonly JsonWriterOptions Layout = new() { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };

    /// <summary>Writes a card into bytes of its own.</summary>
    public static byte[] Write(AppCard card)
    {
        var bytes = new ArrayBufferWriter<byte>(UsualLength);
        using (var json = new Utf8JsonWriter(bytes, Layout)) Write(json, card);
        return bytes.WrittenSpan.ToArray();
    }

    /// <summary>Makes a writer for many cards.</summary>
    public static Utf8JsonWriter WriterInto(IBufferWriter<byte> bytes) => new(bytes, Layout);

    /// <summary>Writes a card.</summary>
    public static void Write(Utf8JsonWriter json, AppCard card)
    {
        json.WriteStartObject();
        json.WriteString("id", card.Id.Text);
        json.WriteString("type", CardWords.Kinds.WordOf(card.Kind));
        json.WriteString("name", card.Name);
        json.WriteString("summary", card.Summary);
        Optional(json, "description", card.Description);
        Write(json, card.Developer);
        Optional(json, "homepage", card.Homepage);
        Optional(json, "project_license", card.Licence);
        Texts(json, "categories", card.Categories);
        Texts(json, "keywords", card.Keywords);
        if (card.SignIn is { } need) json.WriteString("sign_in", CardWords.SignIns.WordOf(need));
        if (card.LicenceKey is { } key) json.WriteString("licence_key", CardWords.SignIns.WordOf(key));
        if (card.Attention is { } attention) Texts(json, "attention", [.. attention.Select(CardWords.Attentions.WordOf)]);
        if (card.Needs.Count > 0) Related(json, "needs", card.Needs);
        if (card.Conflicts.Count > 0) Related(json, "conflicts", card.Conflicts);
        Write(json, card.Review);
        Each(json, "releases", card.Releases, Write);
        Write(json, card.Placement);
        json.WriteEndObject();
    }

    private static void Write(Utf8JsonWriter json, Developer? developer)
    {
        if (developer is null) return;
        json.WriteStartObject("developer");
        json.WriteString("name", developer.Name);
        Optional(json, "id", developer.Id);
        if (developer.IsVouchedFor is { } vouched) json.WriteBoolean("vouched", vouched);
        json.WriteEndObject();
    }

    private static void Write(Utf8JsonWriter json, Review review)
    {
        json.WriteStartObject("review");
        json.WriteString("state", CardWords.ReviewStates.WordOf(review.State));
        Optional(json, "date", review.Date?.ToString("yyyy-MM-dd"));
        Optional(json, "by", review.By);
        json.WriteEndObject();
    }

    private static void Write(Utf8JsonWriter json, Release release)
    {
        json.WriteString("version", release.Version.Text);
        json.WriteString("date", release.Date.ToString("yyyy-MM-dd"));
        Optional(json, "line", release.DeclaredLine?.Name);
        Optional(json, "description", release.Notes);
        if (release.Needs is { } needs) Related(json, "needs", needs);
        if (release.Conflicts is { } conflicts) Related(json, "conflicts", conflicts);
        Each(json, "artifacts", release.Artifacts, Write);
        if (release.Placement is not null) Write(json, release.Placement);
    }

    private static void Write(Utf8JsonWriter json, Artifact artifact)
    {
        json.WriteString("platform", artifact.Platform.ToString());
        json.WriteString("location", artifact.Location.Text);
        if (artifact.Mirrors.Count > 0) Texts(json, "mirrors", [.. artifact.Mirrors.Select(mirror => mirror.Text)]);
        json.WriteString("form", CardWords.Forms.WordOf(artifact.Form));
        json.WriteString("sha256", artifact.Sha256.Hex);
        json.WriteNumber("download_size", artifact.DownloadSize);
        if (artifact.InstalledSize is { } size) json.WriteNumber("installed_size", size);
        if (artifact.StripFolders > 0) json.WriteNumber("strip", artifact.StripFolders);
        Optional(json, "filename", artifact.FileName?.Text);
        if (artifact.Installer is not { } installer) return;
        json.WriteStartObject("installer");
        Texts(json, "arguments", installer.Arguments);
        Numbers(json, "fine", installer.Fine);
        Numbers(json, "restart", installer.Restart);
        json.WriteNumber("seconds", installer.Seconds);
        json.WriteEndObject();
    }

    private static void Write(Utf8JsonWriter json, Placement placement)
    {
        json.WriteStartObject("place");
        Each(json, "commands", placement.Commands, (json, command) =>
        {
            json.WriteString("name", command.Name.Text);
            json.WriteString("path", command.Path.Text);
        });
        Each(json, "desktop_entries", placement.DesktopEntries, (json, entry) =>
        {
            json.WriteString("name", entry.Name.Text);
            json.WriteString("command", entry.Command.Text);
            json.WriteString("arguments", entry.Arguments);
            Optional(json, "path", entry.Path?.Text);
            Optional(json, "icon", entry.Icon?.Text);
        });
        Each(json, "icons", placement.Icons, (json, icon) =>
        {
            json.WriteString("name", icon.Name.Text);
            json.WriteString("path", icon.Path.Text);
            json.WriteString("size", icon.Size);
        });
        if (placement.MimeTypes.Count > 0) Each(json, "mime_types", placement.MimeTypes, Write);
        if (placement.ManualPages.Count > 0) Each(json, "manual_pages", placement.ManualPages, Write);
        if (placement.Completions.Count > 0)
        {
            Each(json, "completions", placement.Completions, (json, completion) =>
            {
                json.WriteString("shell", CardWords.Shells.WordOf(completion.Shell));
                json.WriteString("command", completion.Command.Text);
                json.WriteString("path", completion.Path.Text);
            });
        }

        if (placement.Fonts.Count > 0) Each(json, "fonts", placement.Fonts, Write);
        if (placement.Autostart.Count > 0)
        {
            Each(json, "autostart", placement.Autostart, (json, entry) =>
            {
                json.WriteString("name", entry.Name.Text);
                json.WriteString("command", entry.Command.Text);
                if (entry.Arguments.Length > 0) json.WriteString("arguments", entry.Arguments);
            });
        }

        if (placement.Check is { } check)
        {
            json.WriteStartObject("check");
            json.WriteString("command", check.Command.Text);
            Texts(json, "arguments", check.Arguments);
            json.WriteString("output", check.Output);
            json.WriteNumber("seconds", check.Seconds);
            json.WriteEndObject();
        }

        json.WriteEndObject();
    }

    private static void Write(Utf8JsonWriter json, PlacedFile file)
    {
        json.WriteString("name", file.Name.Text);
        json.WriteString("path", file.Path.Text);
    }

    private static void Related(Utf8JsonWriter json, string key, IReadOnlyList<RelatedApp> related) =>
        Texts(json, key, [.. related.Select(other => other.ToString())]);

    private static void Each<T>(Utf8JsonWriter json, string key, IReadOnlyList<T> items, Action<Utf8JsonWriter, T> write)
    {
        json.WriteStartArray(key);
        foreach (var item in items)
        {
            json.WriteStartObject();
            write(json, item);
            json.WriteEndObject();
        }

        json.WriteEndArray();
    }

    private static void Texts(Utf8JsonWriter json, string key, IReadOnlyList<string> texts)
    {
        json.WriteStartArray(key);
        foreach (var text in texts) json.WriteStringValue(text);
        json.WriteEndArray();
    }

    private static void Numbers(Utf8JsonWriter json, string key, IReadOnlyList<int> numbers)
    {
        json.WriteStartArray(key);
        foreach (var number in numbers) json.WriteNumberValue(number);
        json.WriteEndArray();
    }

    private static void Optional(Utf8JsonWriter json, string key, string? text)
    {
        if (text is not null) json.WriteString(key, text);
    }
}
