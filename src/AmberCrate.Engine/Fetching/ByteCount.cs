namespace AmberCrate.Engine.Fetching;

/// <summary>Takes the number of bytes that have arrived so far, and the number expected.</summary>
/// <param name="arrived">Bytes so far.</param>
/// <param name="expected">Bytes in all.</param>
public delegate void ByteCount(long arrived, long expected);
