namespace AmberCrate.Engine.Decoding;

/// <summary>
/// Calls decoders of other makers. Whatever they throw at damaged data reports damaged data; what our own code throws keeps its
/// meaning, so that a mistake of ours is not taken for a damaged file.
/// </summary>
internal static class ThirdPartyDecoder
{
    /// <summary>Calls a decoder.</summary>
    /// <exception cref="InvalidDataException">It cannot make sense of the data.</exception>
    public static T Call<T>(Func<T> decode)
    {
        try
        {
            return decode();
        }
        catch (Exception fault) when (fault is not (IOException or OperationCanceledException or OutOfMemoryException
            or UnsupportedArchiveException or Core.Machine.RefusedEntryException))
        {
            throw new InvalidDataException(fault.Message, fault);
        }
    }
}
