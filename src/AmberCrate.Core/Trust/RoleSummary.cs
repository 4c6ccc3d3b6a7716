using System.Globalization;
using System.Text.Json;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Trust;

/// <summary>
/// What a file of metadata says of itself, without a look at the rest: for files whose signatures have been checked before, where
/// a command only asks whether they are still of use.
/// </summary>
/// <param name="Version">The version.</param>
/// <param name="Expires">When it ends to be of use.</param>
/// <param name="Issued">When it was signed; null where it does not say.</param>
/// <param name="Delegated">The roles that it delegates targets to, in their order.</param>
public sealed record RoleSummary(
    long Version, DateTimeOffset Expires, DateTimeOffset? Issued, IReadOnlyList<string> Delegated)
{
    /// <summary>Looks at a file.</summary>
    /// <exception cref="MalformedException">It is no metadata.</exception>
    public static RoleSummary Parse(ReadOnlySpan<byte> bytes)
    {
        JsonUnicode.Require(bytes);
        var glance = new RoleSummary(0, DateTimeOffset.MaxValue, null, []);
        var reader = new Utf8JsonReader(bytes);
        try
        {
            if (!Enter(ref reader, JsonTokenType.StartObject) || !Find(ref reader, "signed"u8)
                || !Enter(ref reader, JsonTokenType.StartObject)) throw new MalformedException("signed: expected an object");
            while (reader.Read() && reader.TokenType == JsonTokenType.PropertyName) glance = glance.With(ref reader);
            return glance;
        }
        catch (Exception fault) when (ForeignText.IsOfText(fault))
        {
            throw new MalformedException("expected metadata as JSON", fault);
        }
    }

    private RoleSummary With(ref Utf8JsonReader reader)
    {
        if (reader.ValueTextEquals("version"u8)) return reader.Read() ? this with { Version = reader.GetInt64() } : this;
        if (reader.ValueTextEquals("expires"u8)) return TimeAt(ref reader) is { } ends ? this with { Expires = ends } : this;
        if (reader.ValueTextEquals("issued"u8)) return this with { Issued = TimeAt(ref reader) };
        if (reader.ValueTextEquals("delegations"u8)) return this with { Delegated = NamesAt(ref reader) };
        reader.Read();
        reader.Skip();
        return this;
    }

    private static DateTimeOffset? TimeAt(ref Utf8JsonReader reader)
    {
        reader.Read();
        if (reader.TokenType is JsonTokenType.StartObject or JsonTokenType.StartArray) reader.Skip();
        return reader.TokenType == JsonTokenType.String
            && DateTimeOffset.TryParse(
                reader.GetString(), CultureInfo.InvariantCulture, DateTimeStyles.AssumeUniversal, out var time) ? time : null;
    }

    /// <summary>The names of the roles of <c>delegations</c>; behind its end.</summary>
    private static List<string> NamesAt(ref Utf8JsonReader reader)
    {
        var names = new List<string>();
        if (!Enter(ref reader, JsonTokenType.StartObject))
        {
            reader.Skip();
            return names;
        }

        var within = reader.CurrentDepth;
        if (Find(ref reader, "roles"u8) && Enter(ref reader, JsonTokenType.StartArray))
        {
            while (reader.Read() && reader.TokenType == JsonTokenType.StartObject)
            {
                var role = reader.CurrentDepth;
                if (Find(ref reader, "name"u8) && reader.Read()) names.Add(reader.GetString()!);
                while (reader.CurrentDepth > role && reader.Read()) { }
            }
        }

        while (reader.CurrentDepth > within && reader.Read()) { }
        return names;
    }

    private static bool Enter(ref Utf8JsonReader reader, JsonTokenType start) => reader.Read() && reader.TokenType == start;

    /// <summary>Goes on to a member of the object that was entered; false behind its last.</summary>
    private static bool Find(ref Utf8JsonReader reader, ReadOnlySpan<byte> name)
    {
        while (reader.Read() && reader.TokenType == JsonTokenType.PropertyName)
        {
            if (reader.ValueTextEquals(name)) return true;
            reader.Read();
            reader.Skip();
        }

        return false;
    }
}
