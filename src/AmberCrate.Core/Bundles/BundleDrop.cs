using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Bundles;

/// <summary>An app that a bundle takes out of those it builds on.</summary>
/// <param name="Name">The app, as entries name it: an id, or an id with its catalogue.</param>
/// <param name="Line">The line of the file, from 1.</param>
public sealed record BundleDrop(string Name, int Line)
{
    /// <summary>The id of the app.</summary>
    public string Id => Name[(Name.IndexOf(':') + 1)..];

    /// <summary>Whether it takes out an entry: one of that id, and of that catalogue if it names one.</summary>
    public bool Takes(AppReference entry) =>
        entry.Name == Id && (Id.Length == Name.Length || entry.Catalogue?.Text == Name[..^(Id.Length + 1)]);
}
