using System.Buffers;
using System.Security.Cryptography;
using System.Text;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Planning;

/// <summary>The digest of what a plan will do, by which a plan that was shown is recognised when it is to be carried out.</summary>
public static class PlanDigest
{
    private const char Between = '\t', AtTheEnd = '\n';

    /// <summary>
    /// The digest: SHA-256 of one line for each item, with all that decides what is done. The card belongs to it, but for its other
    /// releases, since it says what is placed and what is started.
    /// </summary>
    /// <param name="plan">The plan.</param>
    /// <param name="besides">What else is done with it, such as catalogues that are added.</param>
    public static Sha256Digest Of(Plan plan, IEnumerable<string> besides)
    {
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        var bytes = new ArrayBufferWriter<byte>();
        using var json = CardLineWriter.WriterInto(bytes);
        foreach (var more in besides) Add(hash, ["besides", more]);
        foreach (var item in plan.Items)
        {
            Add(hash,
            [
                item.Id, item.Action.ToString(), item.From?.Text, item.To?.Text, item.Asked?.ToString(),
                item.Fetches ? item.Offer!.Catalogue.Text : null,
                item.Fetches ? item.FileDigest!.Hex : null,
                item.Fetches ? Hex(CardOf(item)) : null,
                string.Join(Between, item.ToInstaller.Select(argument => Hex(Encoding.UTF8.GetBytes(argument)))), string.Join(Between, item.NeededBy),
            ]);
        }

        return Sha256Digest.FromBytes(hash.GetHashAndReset());

        ReadOnlySpan<byte> CardOf(PlanItem item)
        {
            bytes.ResetWrittenCount();
            json.Reset();
            CardLineWriter.Write(json, item.Offer!.Card with { Releases = [item.Release!] });
            json.Flush();
            return bytes.WrittenSpan;
        }
    }

    private static void Add(IncrementalHash hash, IEnumerable<string?> parts) => hash.AppendData(Encoding.UTF8.GetBytes(string.Join(Between, parts) + AtTheEnd));

    private static string Hex(ReadOnlySpan<byte> bytes) => Convert.ToHexStringLower(SHA256.HashData(bytes));
}
