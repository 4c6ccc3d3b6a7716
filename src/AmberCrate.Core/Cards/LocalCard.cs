namespace AmberCrate.Core.Cards;

/// <summary>What a card says to a user who reads some languages.</summary>
public static class LocalCard
{
    /// <summary>The card with name, summary and description in the first of the languages that has each.</summary>
    /// <param name="card">The card.</param>
    /// <param name="languages">The languages, the most exact first; none for English.</param>
    public static AppCard Localise(AppCard card, IReadOnlyList<string> languages)
    {
        if (languages.Count == 0 || card.Translations.Count == 0) return card;
        List<Translation> read = [.. languages
            .Select(language => card.Translations.FirstOrDefault(text => text.Language == language))
            .OfType<Translation>()];
        return card with
        {
            Name = read.Select(text => text.Name).FirstOrDefault(IsSaid) ?? card.Name,
            Summary = read.Select(text => text.Summary).FirstOrDefault(IsSaid) ?? card.Summary,
            Description = read.Select(text => text.Description).FirstOrDefault(IsSaid) ?? card.Description,
        };
    }

    private static bool IsSaid(string? text) => !string.IsNullOrEmpty(text);
}
