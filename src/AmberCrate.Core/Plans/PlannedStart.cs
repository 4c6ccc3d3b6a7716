namespace AmberCrate.Core.Plans;

/// <summary>A program that is started because of a plan.</summary>
/// <param name="Reason">Why and when.</param>
/// <param name="App">The id of the app that it is started for; null where it is for the whole plan.</param>
/// <param name="Command">What is started.</param>
/// <param name="IsConfined">Whether it is kept from the network and from writing outside its own folder; null where that is not
/// the question.</param>
public sealed record PlannedStart(StartReason Reason, string? App, string Command, bool? IsConfined = null);
