namespace AmberCrate.Core.Drafting;

/// <summary>A vendor's file, and where the card says that it is.</summary>
/// <param name="Contents">What was read of it.</param>
/// <param name="Location">Where it is, as the card says it.</param>
public sealed record DraftedFile(PackageContents Contents, string Location);
