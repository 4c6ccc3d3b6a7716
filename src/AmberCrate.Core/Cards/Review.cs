namespace AmberCrate.Core.Cards;

/// <summary>What the catalogue's maintainers say about their look at an app.</summary>
/// <param name="State">The state.</param>
/// <param name="Date">When it was reached; null where the card is silent.</param>
/// <param name="By">Who looked; null where the card is silent.</param>
public sealed record Review(ReviewState State, DateOnly? Date = null, string? By = null);
