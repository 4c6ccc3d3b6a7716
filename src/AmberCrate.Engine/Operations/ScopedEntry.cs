using AmberCrate.Core.Planning;
using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Operations;

/// <summary>An installed app, and whom it is there for.</summary>
/// <param name="Scope">Whom it is there for.</param>
/// <param name="Entry">How it stands to what is offered.</param>
public sealed record ScopedEntry(InstallScope Scope, DueEntry Entry);
