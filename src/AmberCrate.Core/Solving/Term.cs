using System.Runtime.InteropServices;

namespace AmberCrate.Core.Solving;

/// <summary>That a variable has one of some values.</summary>
/// <param name="Variable">The variable, counted from 0.</param>
/// <param name="Values">The values.</param>
[StructLayout(LayoutKind.Auto)]
public readonly record struct Term(int Variable, ValueSet Values);
