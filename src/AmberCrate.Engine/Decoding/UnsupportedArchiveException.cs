namespace AmberCrate.Engine.Decoding;

/// <summary>An archive that is not damaged, and cannot be unpacked all the same: encrypted, or packed in a way not known
/// here.</summary>
/// <param name="why">Why, as a sentence about it: "it is encrypted".</param>
public sealed class UnsupportedArchiveException(string why) : Exception(why);
