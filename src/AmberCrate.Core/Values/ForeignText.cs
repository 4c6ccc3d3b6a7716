using System.Text.Json;
using System.Xml;

namespace AmberCrate.Core.Values;

/// <summary>
/// The one door for text that strangers have written. A reader may throw whatever it likes at damaged text; behind the door it is
/// always the same exception, and its message has no words of the framework in it.
/// </summary>
public static class ForeignText
{
    /// <summary>Reads a text.</summary>
    /// <param name="what">What it should be, for the message, such as "the entry document".</param>
    /// <param name="read">Reads it. It works in memory: it opens no file and asks no server.</param>
    /// <exception cref="MalformedException">It is not what it should be.</exception>
    public static T Read<T>(string what, Func<T> read)
    {
        try
        {
            return read();
        }
        catch (Exception fault) when (IsOfText(fault))
        {
            throw new MalformedException($"{what} cannot be read: {Words(fault)}", fault);
        }
    }

    /// <summary>
    /// Whether an exception means that the text is damaged. Our own exceptions keep their words. Running out of memory, or being
    /// cancelled, has nothing to do with the text.
    /// </summary>
    public static bool IsOfText(Exception fault) =>
        fault is not (MalformedException or OperationCanceledException or OutOfMemoryException or IOException);

    /// <summary>The fault in plain words, without the names of framework types.</summary>
    public static string Words(Exception fault) => fault switch
    {
        // The framework says the place at the end of its words, counted from 0; people count lines from 1.
        JsonException { Path: null, LineNumber: { } line } json => $"line {line + 1}: {json.Message.Split(" LineNumber:")[0]}",
        XmlException { LineNumber: > 0 } xml => $"line {xml.LineNumber}: {xml.Message.Split(" Line ")[0]}",
        XmlException xml => xml.Message.TrimEnd('.'),
        KeyNotFoundException => "a key is missing",
        _ => "it is not in the form that it should have",
    };
}
