using System.Text.Json;
using System.Text.Json.Serialization;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.CardFiles;

/// <summary>Converters between JSON strings and the words of the trade; what a parser refuses is refused here too.</summary>
internal static class TextConverters
{
    internal abstract class Of<T>(Func<string, T> parse, Func<T, string> write) : JsonConverter<T>
    {
        public override T Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
        {
            if (reader.TokenType != JsonTokenType.String) throw new JsonException("expected a string");
            try
            {
                return parse(reader.GetString()!);
            }
            catch (MalformedException fault)
            {
                throw new JsonException(fault.Message, fault);
            }
        }

        public override void Write(Utf8JsonWriter writer, T value, JsonSerializerOptions options) =>
            writer.WriteStringValue(write(value));
    }

    internal abstract class OfWords<T>(WordTable<T> words) : Of<T>(words.Read, words.WordOf)
        where T : struct, Enum;

    internal sealed class Ids() : Of<AppId>(AppId.Parse, id => id.Text);

    internal sealed class Versions() : Of<AppVersion>(AppVersion.Parse, version => version.Text);

    internal sealed class Lines() : Of<ReleaseLine>(
        text => ReleaseLine.TryParse(text, out var line)
            ? line
            : throw new MalformedException($"expected {ReleaseLine.Expected}, found \"{text}\""),
        line => line.Name);

    internal sealed class Digests() : Of<Sha256Digest>(Sha256Digest.Parse, digest => digest.Hex);

    internal sealed class Needs() : Of<RelatedApp>(RelatedApp.Parse, need => need.ToString());

    internal sealed class Paths() : Of<InsidePath>(InsidePath.Parse, path => path.Text);

    internal sealed class Platforms() : Of<Platform>(Platform.Parse, platform => platform.ToString());

    internal sealed class FileNames() : Of<FileName>(
        text => FileName.TryParse(text, out var name) ? name : throw new MalformedException($"expected {FileName.Expected}"),
        name => name.Text);

    internal sealed class Kinds() : OfWords<AppKind>(CardWords.Kinds);

    internal sealed class CatalogueNames() : Of<CatalogueName>(CatalogueName.Parse, name => name.Text);

    internal sealed class Selectors() : Of<VersionSelector>(VersionSelector.Parse, selector => selector.ToString());
}
