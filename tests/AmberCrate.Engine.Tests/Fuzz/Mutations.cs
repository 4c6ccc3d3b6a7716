namespace AmberCrate.Engine.Tests.Fuzz;

/// <summary>Changes files as damage and ill will do: always the same ones for the same number.</summary>
public static class Mutations
{
    private static readonly byte[][] Extremes =
    [
        [0xff, 0xff, 0xff, 0xff], [0xff, 0xff, 0xff, 0x7f], [0, 0, 0, 0x80], [0, 0, 0, 0], [0xff], [0], [0x7f],
        [0xff, 0xff, 0xff, 0xff, 0xff, 0xff, 0xff, 0x7f], [.. "99999999999"u8], [.. "-1"u8], [.. "../../../x"u8], [.. "\0"u8],
        [0xc3, 0x28], [0xed, 0xa0, 0x80], [.. "[[[[[[[[[[[[[[[["u8], [.. "\\ud800"u8], [.. "1e999"u8], [.. "\"\"\""u8],
    ];

    /// <summary>One changed file.</summary>
    /// <param name="seed">The file.</param>
    /// <param name="number">Which change.</param>
    public static byte[] Of(byte[] seed, int number)
    {
        var random = new Random(number);
        var bytes = seed.ToList();
        for (var changes = 1 + random.Next(4); changes > 0 && bytes.Count > 0; changes--) Change(bytes, random);
        return [.. bytes];
    }

    private static void Change(List<byte> bytes, Random random)
    {
        var at = random.Next(bytes.Count);
        switch (random.Next(7))
        {
            case 0:
                bytes[at] ^= (byte)(1 << random.Next(8));
                break;
            case 1:
                bytes[at] = (byte)random.Next(256);
                break;
            case 2:
                bytes.RemoveRange(at, bytes.Count - at);
                break;
            case 3:
                bytes.RemoveRange(at, Math.Min(1 + random.Next(64), bytes.Count - at));
                break;
            case 4:
                var extreme = Extremes[random.Next(Extremes.Length)];
                for (var each = 0; each < extreme.Length && at + each < bytes.Count; each++) bytes[at + each] = extreme[each];
                break;
            case 5:
                bytes.InsertRange(at, Extremes[random.Next(Extremes.Length)]);
                break;
            default:
                var length = Math.Min(1 + random.Next(600), bytes.Count - at);
                bytes.InsertRange(random.Next(bytes.Count), bytes.GetRange(at, length));
                break;
        }
    }
}
