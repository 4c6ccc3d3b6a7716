using System.Globalization;

namespace AmberCrate.Core.Values;

/// <summary>Numbers of bytes as people write them: <c>4096</c>, <c>500 KiB</c>, <c>1.5MiB</c>, <c>2GiB</c>.</summary>
public static class ByteSize
{
    /// <summary>What a number of bytes must look like, for messages.</summary>
    public const string Expected = "a number of bytes, or of KiB, MiB or GiB such as 1.5MiB";

    private static readonly (string Unit, long Bytes)[] Units =
        [("KiB", 1L << 10), ("MiB", 1L << 20), ("GiB", 1L << 30), ("TiB", 1L << 40), ("B", 1), ("", 1)];

    /// <summary>A number of bytes in the largest unit that it fills.</summary>
    public static string Words(long bytes)
    {
        if (bytes < 1024) return $"{bytes} B";
        var unit = 0;
        while (bytes / Units[unit].Bytes >= 1024 && Units[unit + 1].Bytes > 1) unit++;
        var one = Units[unit].Bytes;
        var tenths = (bytes / one * 10) + (((bytes % one * 10) + (one / 2)) / one);
        return $"{tenths / 10}.{tenths % 10} {Units[unit].Unit}";
    }

    /// <summary>A number of bytes as MiB with one decimal, for numbers that are to be compared.</summary>
    public static string Mebibytes(long bytes) => (bytes / (double)(1 << 20)).ToString("0.0", CultureInfo.InvariantCulture);

    /// <summary>Reads a number of bytes; false when it is not one, or not above 0.</summary>
    public static bool TryParse(string text, out long bytes)
    {
        var (unit, factor) = Units.First(unit => text.EndsWith(unit.Unit, StringComparison.OrdinalIgnoreCase));
        bytes = decimal.TryParse(
            text[..^unit.Length].TrimEnd(),
            NumberStyles.AllowDecimalPoint,
            CultureInfo.InvariantCulture,
            out var number) && number < 1L << 20
            ? (long)(number * factor)
            : long.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var plain) ? plain : 0;
        return bytes > 0;
    }
}
