namespace AmberCrate.Cli.Running;

/// <summary>A program that a plan starts, as JSON.</summary>
internal sealed record StartDocument(
    string Reason,
    string? App,
    string Command,
    bool? Confined);
