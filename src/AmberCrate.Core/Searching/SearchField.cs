namespace AmberCrate.Core.Searching;

/// <summary>The part of a card where the words of a query were found, the most important first.</summary>
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

    /// <summary>A type of file that it opens.</summary>
    FileType,

    /// <summary>What it is for: a purpose that its categories or words tell.</summary>
    Purpose,

    /// <summary>The summary.</summary>
    Summary,

    /// <summary>A category that is telling.</summary>
    Category,

    /// <summary>The developer, or the domain that its id begins with.</summary>
    Developer,

    /// <summary>A main category, such as all that has to do with sound.</summary>
    Area,

    /// <summary>The description.</summary>
    Description,
}
