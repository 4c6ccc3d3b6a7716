using System.Runtime.InteropServices;

namespace AmberCrate.Engine.Decoding;

/// <summary>A part of a sparse file that is stored; what lies between the parts is zeros.</summary>
/// <param name="Offset">Where it goes, in bytes.</param>
/// <param name="Length">How long it is, in bytes.</param>
[StructLayout(LayoutKind.Auto)]
internal readonly record struct SparsePart(long Offset, long Length);
