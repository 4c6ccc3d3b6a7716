using System.Globalization;
using System.Text;
using System.Xml;
using System.Xml.Linq;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Drafting;

/// <summary>
/// Reads AppStream metainfo, after the specification 1.0, leniently: what a card has no place for is passed over. Entities and
/// document types of its own are not followed.
/// </summary>
public static class MetainfoReader
{
    /// <summary>The largest file that is read, in characters.</summary>
    public const int Most = 4 << 20;

    private const int MostReleases = 100, DeepestNesting = 64;
    private static readonly XName Language = XNamespace.Xml + "lang";

    private static readonly XmlReaderSettings Careful = new()
    {
        DtdProcessing = DtdProcessing.Ignore, XmlResolver = null, MaxCharactersInDocument = Most, MaxCharactersFromEntities = 0,
        IgnoreComments = true,
    };

    /// <summary>Reads a file.</summary>
    /// <exception cref="MalformedException">It is not well formed, too large, or no component.</exception>
    public static Metainfo Read(string text)
    {
        return ForeignText.Read("the metainfo", () =>
        {
            RequireShallow(text);
            using var reader = XmlReader.Create(new StringReader(text), Careful);
            var root = XDocument.Load(reader).Root!;
            var component = root.Name.LocalName == "component" ? root : Child(root, "component");
            return component is null ? throw new MalformedException("it has no component") : ReadComponent(component);
        });
    }

    /// <summary>The text of an element is that of all elements in it: among thousands in one another, that never ends.</summary>
    private static void RequireShallow(string text)
    {
        using var reader = XmlReader.Create(new StringReader(text), Careful);
        while (reader.Read())
        {
            if (reader.Depth > DeepestNesting)
                throw new MalformedException($"expected at most {DeepestNesting} elements in one another");
        }
    }

    private static Metainfo ReadComponent(XElement component)
    {
        var texts = Texts(component);
        return new Metainfo
        {
            Id = Child(component, "id")?.Value.Trim(),
            Type = component.Attribute("type")?.Value,
            English = texts.GetValueOrDefault("en") ?? new Translation("en", null, null, [], null),
            Translations = [.. texts.Values.Where(said => said.Language != "en")],
            Licence = ReadText(Child(component, "project_license")),
            Developer = ReadText(Children(Child(component, "developer"), "name").FirstOrDefault(IsEnglish))
                ?? ReadText(Children(component, "developer_name").FirstOrDefault(IsEnglish)),
            Homepage = ReadText(Children(component, "url").FirstOrDefault(url => url.Attribute("type")?.Value == "homepage")),
            Categories = [.. Children(Child(component, "categories"), "category").Select(ReadText).OfType<string>()],
            MimeTypes = [.. Children(Child(component, "provides"), "mediatype")
                .Concat(Children(Child(component, "provides"), "mimetype"))
                .Concat(Children(Child(component, "mimetypes"), "mimetype")).Select(ReadText).OfType<string>()],
            Screenshots = [.. Children(Child(component, "screenshots"), "screenshot").Select(ScreenshotOf).OfType<Screenshot>()],
            DesktopEntries = [.. Children(component, "launchable")
                .Where(entry => entry.Attribute("type")?.Value == "desktop-id").Select(ReadText).OfType<string>()
                .Select(id => id.EndsWith(".desktop", StringComparison.Ordinal) ? id[..^".desktop".Length] : id)],
            Releases = [.. Children(Child(component, "releases"), "release").Take(MostReleases)
                .Select(ReleaseOf).OfType<MetainfoRelease>()],
        };
    }

    /// <summary>The texts by language.</summary>
    private static Dictionary<string, Translation> Texts(XElement component)
    {
        var texts = new Dictionary<string, Translation>(StringComparer.Ordinal);
        foreach (var element in component.Elements())
        {
            switch (element.Name.LocalName)
            {
                case "name": Add(element, (said, text) => said with { Name = said.Name ?? text }); break;
                case "summary": Add(element, (said, text) => said with { Summary = said.Summary ?? text }); break;
                case "keywords":
                    foreach (var keyword in Children(element, "keyword"))
                        Add(keyword, (said, text) => said with { Keywords = [.. said.Keywords, text] }, element);
                    break;
            }
        }

        foreach (var (language, text) in Descriptions(Child(component, "description")))
        {
            texts.TryGetValue(language, out var said);
            texts[language] = (said ?? new Translation(language, null, null, [], null)) with { Description = text };
        }

        return texts;

        void Add(XElement element, Func<Translation, string, Translation> with, XElement? outer = null)
        {
            if (LanguageOf(element, outer) is not { } language || ReadText(element) is not { } text) return;
            texts.TryGetValue(language, out var said);
            texts[language] = with(said ?? new Translation(language, null, null, [], null), text);
        }
    }

    /// <summary>The paragraphs and lists of a description, by language.</summary>
    private static Dictionary<string, string> Descriptions(XElement? description)
    {
        var texts = new Dictionary<string, StringBuilder>(StringComparer.Ordinal);
        foreach (var part in (description?.Descendants() ?? []).Where(part => part.Name.LocalName is "p" or "li"))
        {
            if (LanguageOf(part, part.Parent) is not { } language || ReadText(part) is not { } text) continue;
            if (!texts.TryGetValue(language, out var all)) texts.Add(language, all = new StringBuilder());
            if (all.Length > 0) all.Append('\n');
            all.Append(part.Name.LocalName == "li" ? "- " : "").Append(text);
        }

        return texts.ToDictionary(pair => pair.Key, pair => pair.Value.ToString(), StringComparer.Ordinal);
    }

    private static Screenshot? ScreenshotOf(XElement element)
    {
        var address = Children(element, "image").FirstOrDefault(image => image.Attribute("type")?.Value != "thumbnail");
        return ReadText(address) is { } text
            && Address.IsOfWeb(text)
            ? new Screenshot(text, ReadText(Children(element, "caption").FirstOrDefault(IsEnglish)))
            : null;
    }

    private static MetainfoRelease? ReleaseOf(XElement element)
    {
        if (element.Attribute("version")?.Value.Trim() is not { Length: > 0 } version) return null;
        var day = element.Attribute("date")?.Value.Split('T')[0];
        DateOnly? date = DateOnly.TryParseExact(day, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var at)
            ? at
            : long.TryParse(element.Attribute("timestamp")?.Value, out var seconds) && seconds is > 0 and < 1L << 36
                ? DateOnly.FromDateTime(DateTimeOffset.FromUnixTimeSeconds(seconds).UtcDateTime)
                : null;
        Urgency? urgency = CardWords.Urgencies.TryRead(element.Attribute("urgency")?.Value ?? "", out var known) ? known : null;
        return new MetainfoRelease(
            version, date, urgency, Descriptions(Child(element, "description")).GetValueOrDefault("en"));
    }

    /// <summary>The language of a text: <c>en</c> if none is said; null where it is none that a card can have.</summary>
    private static string? LanguageOf(XElement element, XElement? outer)
    {
        if ((element.Attribute(Language) ?? outer?.Attribute(Language))?.Value is not { } said) return "en";
        return LanguageTag.TryParse(said, out var tag) && tag != "en" ? tag : null;
    }

    private static bool IsEnglish(XElement element) => element.Attribute(Language) is null;

    private static XElement? Child(XElement? element, string name) => Children(element, name).FirstOrDefault();

    private static IEnumerable<XElement> Children(XElement? element, string name) =>
        element?.Elements().Where(child => child.Name.LocalName == name) ?? [];

    /// <summary>The text of an element with single spaces; null where it has none.</summary>
    private static string? ReadText(XElement? element)
    {
        var text = string.Join(' ', (element?.Value ?? "").Split(Array.Empty<char>(), StringSplitOptions.RemoveEmptyEntries));
        return text.Length > 0 ? text : null;
    }
}
