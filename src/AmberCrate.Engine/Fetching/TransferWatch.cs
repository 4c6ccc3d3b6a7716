namespace AmberCrate.Engine.Fetching;

/// <summary>Receives the progress; from any thread.</summary>
/// <param name="Bytes">Takes the number of bytes that are there.</param>
/// <param name="Waits">Takes how long the transfer will wait before it is tried again, and why.</param>
public sealed record TransferWatch(ByteCount? Bytes, Action<TimeSpan, string>? Waits);
