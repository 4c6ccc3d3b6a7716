namespace AmberCrate.Core.Tests.Model;

/// <summary>What did not hold, with the whole story.</summary>
public sealed class ModelException(string message, Exception inner) : Exception(message, inner);
