namespace AmberCrate.Engine.SystemCalls;

/// <summary>A file that programs inherit which are started while it is open.</summary>
/// <param name="descriptor">Its descriptor, here and in them.</param>
internal sealed class InheritedDescriptor(int descriptor) : IDisposable
{
    /// <summary>Its descriptor, here and in them.</summary>
    public int Descriptor => descriptor;

    /// <inheritdoc/>
    public void Dispose() => Posix.Close(descriptor);
}
