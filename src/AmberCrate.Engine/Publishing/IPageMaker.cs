namespace AmberCrate.Engine.Publishing;

/// <summary>Makes the pages of a catalogue, which people look at in a browser.</summary>
public interface IPageMaker
{
    /// <summary>Makes them one after the other; the file that leads to all others comes last.</summary>
    IEnumerable<PageFile> Make(PageContent content);
}
