using System.Buffers;
using System.Security.Cryptography;
using System.Text;
using AmberCrate.Core.CardFiles;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Plans;

/// <summary>
/// The digest of what a plan will do. It recognises a plan that was shown when it is carried out.
/// </summary>
public static class PlanDigest
{
    private const char Between = '\t', AtTheEnd = '\n';

    /// <summary>
    /// The digest: SHA-256 of a line for each thing that the plan does, with all that decides what is done: catalogues with their
    /// addresses, items with where their files come from, places, and programs with whether they are confined. The card belongs
    /// to it, except for its other releases.
    /// </summary>
    /// <remarks>
    /// What is a matter of the moment does not belong to it: how much room is free, how much has been fetched already, which
    /// rights the process has and what the other scope holds. The process that carries a plan out with more rights than the one
    /// that showed it finds these changed.
    /// </remarks>
    /// <param name="plan">The plan.</param>
    public static Sha256Digest Compute(SurveyedPlan plan)
    {
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        var bytes = new ArrayBufferWriter<byte>();
        using var json = CardJson.WriterInto(bytes);
        Add(hash, ["plan", ScopeWords.Scopes.WordOf(plan.Scope), plan.FetchesOnly ? "fetch" : "change"]);
        foreach (var catalogue in plan.Solved.AddedCatalogues) Add(hash, ["catalogue", catalogue.Name.Text, catalogue.Location,
            .. catalogue.TakesOver]);
        foreach (var catalogue in plan.Solved.DroppedCatalogues) Add(hash, ["drop", catalogue.Name.Text, catalogue.Location]);
        foreach (var pin in plan.Solved.Pins)
            Add(hash, ["pin", pin.App.Text, pin.After?.Selector.ToString(), pin.After?.Reason,
                pin.After?.Until?.ToString("yyyy-MM-dd")]);
        foreach (var item in plan.Items) Add(hash, Parts(item));
        foreach (var place in plan.Places)
            Add(hash, ["place", place.App, PlaceWords.Kinds.WordOf(place.Kind), place.Path, place.Hides]);
        foreach (var start in plan.Starts)
            Add(hash, ["start", StartWords.Reasons.WordOf(start.Reason), start.App, start.Command, start.IsConfined?.ToString()]);
        return Sha256Digest.FromBytes(hash.GetHashAndReset());

        IEnumerable<string?> Parts(PlanItem item) =>
        [
            "item", item.Id, ActionWords.Actions.WordOf(item.Action), item.From?.Text, item.To?.Text, item.Follows?.ToString(),
            item.IsDependency ? "dependency" : null, item.Platform?.ToString(),
            item.IsAttended ? "attended" : null, item.IsUnsigned ? "unsigned" : null,
            item.Restores?.ShelfName, item.Restores?.Sha256.Hex,
            .. item.RemovedSettings.Select(path => "settings " + path),
            .. Source(item),
            string.Join(Between, item.InstallerArguments.Select(argument => Hex(Encoding.UTF8.GetBytes(argument)))),
            string.Join(Between, item.NeededBy),
        ];

        IEnumerable<string?> Source(PlanItem item) => !item.Fetches ? [] :
        [
            item.Offer!.Catalogue.Text, item.DeliveryDigest!.Hex, Hex(CardOf(item)),
            .. item.Delivery!.Files.SelectMany(file => file.Mirrors.Prepend(file.Location))
                .Select(location => location.Resolve(item.Offer.Base).AbsoluteUri),
        ];

        ReadOnlySpan<byte> CardOf(PlanItem item)
        {
            bytes.ResetWrittenCount();
            json.Reset();
            CardJson.Write(json, item.Offer!.Card with { Releases = [item.Release!] });
            json.Flush();
            return bytes.WrittenSpan;
        }
    }

    private static void Add(IncrementalHash hash, IEnumerable<string?> parts) =>
        hash.AppendData(Encoding.UTF8.GetBytes(string.Join(Between, parts) + AtTheEnd));

    private static string Hex(ReadOnlySpan<byte> bytes) => Convert.ToHexStringLower(SHA256.HashData(bytes));
}
