namespace AmberCrate.Engine.Running;

/// <summary>What a person has set about how the program works.</summary>
/// <param name="Layout">Where everything lies.</param>
/// <param name="NetworkPatience">How long a server may be silent.</param>
public sealed record WorkstationSettings(MachineLayout Layout, TimeSpan NetworkPatience);
