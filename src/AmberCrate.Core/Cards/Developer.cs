namespace AmberCrate.Core.Cards;

/// <summary>Who makes an app.</summary>
/// <param name="Name">The name for people.</param>
/// <param name="Id">AppStream's developer id; null where the card is silent.</param>
/// <param name="IsConfirmed">Whether the catalogue's maintainers have made sure that the app comes from this developer; null
/// where
/// the card is silent.</param>
public sealed record Developer(string Name, string? Id = null, bool? IsConfirmed = null);
