namespace AmberCrate.SampleCatalogue;

/// <summary>What one app is for.</summary>
/// <param name="Verb">What a person does with it.</param>
/// <param name="Keywords">Words by which people look for such apps.</param>
/// <param name="Categories">Its categories.</param>
/// <param name="Kind">What the things are like.</param>
/// <param name="Thing">The things.</param>
public sealed record Topic(string Verb, string[] Keywords, string[] Categories, string Kind, string Thing);
