using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Catalogues;

/// <summary>An app that has a sign.</summary>
/// <param name="Sign">The sign.</param>
/// <param name="App">The app.</param>
/// <param name="Catalogue">Its catalogue.</param>
/// <param name="Releases">Its newest releases, as <see cref="Core.Searching.NewestReleases"/> keeps them.</param>
public sealed record RecognisedApp(string Sign, AppId App, CatalogueName Catalogue, string Releases);
