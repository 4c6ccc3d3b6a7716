using System.Text;
using AmberCrate.Core.Problems;

namespace AmberCrate.Engine.Host;

/// <summary>Reads files that people write: UTF-8, with or without a byte order mark, and nothing else.</summary>
public static class TextFile
{
    private static readonly UTF8Encoding Strict = new(encoderShouldEmitUTF8Identifier: false, throwOnInvalidBytes: true);

    /// <summary>Reads a file; a fault is added where it is not UTF-8, and the text is then empty.</summary>
    public static string Read(string path, string file, ICollection<FormatFault> faults) =>
        Decode(File.ReadAllBytes(path), file, faults);

    /// <summary>Reads the bytes of a file; a fault is added where they are not UTF-8, and the text is then empty.</summary>
    public static string Decode(ReadOnlySpan<byte> bytes, string file, ICollection<FormatFault> faults)
    {
        if (bytes.StartsWith(Encoding.UTF8.Preamble)) bytes = bytes[Encoding.UTF8.Preamble.Length..];
        try
        {
            return Strict.GetString(bytes);
        }
        catch (DecoderFallbackException fault)
        {
            var line = bytes[..Math.Min(fault.Index, bytes.Length)].Count((byte)'\n') + 1;
            faults.Add(new FormatFault(file, line, "", "expected UTF-8 text, found a byte that is not part of any character"));
            return "";
        }
    }
}
