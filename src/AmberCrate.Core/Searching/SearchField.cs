namespace AmberCrate.Core.Searching;

/// <summary>The part of a card in which a query was found, the most telling first.</summary>
public enum SearchField
{
    /// <summary>The whole id or name.</summary>
    WholeName,

    /// <summary>The beginning of the id or name.</summary>
    NameStart,

    /// <summary>Words of the id or name.</summary>
    NameWords,

    /// <summary>A keyword.</summary>
    Keyword,

    /// <summary>A category.</summary>
    Category,

    /// <summary>The developer.</summary>
    Developer,

    /// <summary>The summary.</summary>
    Summary,

    /// <summary>The description.</summary>
    Description,
}
