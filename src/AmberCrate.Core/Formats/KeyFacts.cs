namespace AmberCrate.Core.Formats;

/// <summary>What is fixed about a key of a table.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Meaning">What it means, for the documentation.</param>
/// <param name="IsRequired">Whether it must be there.</param>
/// <param name="Place">Its place among the keys of the table, from 0.</param>
/// <param name="Format">How its value is written.</param>
internal sealed record KeyFacts(string Name, string Meaning, bool IsRequired, int Place, ValueFormat Format);
