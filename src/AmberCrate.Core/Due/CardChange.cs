using AmberCrate.Core.Cards;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Due;

/// <summary>
/// Something that the user accepted when they installed an app. Its card now states it differently.
/// </summary>
/// <param name="Kind">What it is.</param>
/// <param name="Before">What the card said when the app was installed; empty if it said nothing.</param>
/// <param name="After">What the card says now; empty if it says nothing.</param>
public sealed record CardChange(CardChangeKind Kind, string Before, string After)
{
    /// <summary>A word for each kind, in JSON.</summary>
    public static WordTable<CardChangeKind> Kinds { get; } = new(
        (CardChangeKind.Licence, "licence"), (CardChangeKind.LicenceKey, "licence-key"), (CardChangeKind.SignIn, "sign-in"),
        (CardChangeKind.Developer, "developer"), (CardChangeKind.Homepage, "homepage"));

    /// <summary>The change in words.</summary>
    public string Words => Kind switch
    {
        CardChangeKind.LicenceKey => "now needs a licence key",
        CardChangeKind.SignIn => "now needs a sign-in",
        _ when After.Length == 0 => $"{Kinds.WordOf(Kind)} is no longer stated (was {Before})",
        CardChangeKind.Licence or CardChangeKind.Developer or CardChangeKind.Homepage =>
            $"{Kinds.WordOf(Kind)} is now {After} (was {Before})",
    };

    /// <summary>
    /// Compares the card that an app was installed with to the card that is offered now. A card that begins to state what it
    /// did not state before is not a change: the app may have been like that all along. The exception is a key or a sign-in that
    /// is needed, since the app that is installed works without.
    /// </summary>
    /// <param name="kept">The card that the app was installed with.</param>
    /// <param name="offered">The card that is offered now.</param>
    public static IReadOnlyList<CardChange> Between(AppCard kept, AppCard offered)
    {
        List<CardChange> changes = [];
        // SPDX licence expressions are compared without regard to case (SPDX 2.3, annex D).
        if (Differ(kept.Licence, offered.Licence, StringComparison.OrdinalIgnoreCase))
            changes.Add(new(CardChangeKind.Licence, kept.Licence!, offered.Licence ?? ""));
        AddNeed(CardChangeKind.LicenceKey, kept.LicenceKey, offered.LicenceKey);
        AddNeed(CardChangeKind.SignIn, kept.SignIn, offered.SignIn);
        if (IsOther(kept.Developer, offered.Developer))
            changes.Add(new(CardChangeKind.Developer, kept.Developer!.Name, NameOf(kept.Developer, offered.Developer)));
        if (offered.Homepage is { } page && Differ(kept.Homepage?.TrimEnd('/'), page.TrimEnd('/'), StringComparison.Ordinal))
            changes.Add(new(CardChangeKind.Homepage, kept.Homepage!, page));
        return changes;

        void AddNeed(CardChangeKind kind, SignIn? before, SignIn? after)
        {
            if (after != SignIn.Required || before == SignIn.Required) return;
            var word = before is { } one ? CardWords.SignIns.WordOf(one) : "";
            changes.Add(new(kind, word, CardWords.SignIns.WordOf(SignIn.Required)));
        }
    }

    private static bool Differ(string? before, string? after, StringComparison comparison) =>
        before is not null && !string.Equals(before, after, comparison);

    /// <summary>The id decides where both cards have one: a developer may change the name.</summary>
    private static bool IsOther(Developer? before, Developer? after) => before is not null
        && (after is null || (before.Id is { } id && after.Id is { } now ? id != now : before.Name != after.Name));

    private static string NameOf(Developer before, Developer? after) => after is null ? ""
        : after.Name == before.Name ? $"{after.Name} ({after.Id})" : after.Name;
}
