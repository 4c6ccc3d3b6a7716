namespace AmberCrate.Engine.Host;

/// <summary>Reports how far long work is. It may be called from several threads at once.</summary>
/// <param name="what">What is done, such as "checking cards".</param>
/// <param name="done">How many of the things are done.</param>
/// <param name="count">How many there are.</param>
public delegate void WorkProgress(string what, int done, int count);
