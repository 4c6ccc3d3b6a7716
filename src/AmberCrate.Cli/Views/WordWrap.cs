using System.Text;

namespace AmberCrate.Cli.Views;

/// <summary>Breaks text into lines at its spaces.</summary>
internal static class WordWrap
{
    /// <summary>Lines of at most so many columns; a word that is longer stands alone.</summary>
    public static IEnumerable<string> Lines(string text, int width)
    {
        var line = new StringBuilder();
        var taken = 0;
        foreach (var word in text.Split(' '))
        {
            var length = DisplayWidth.Of(word);
            if (taken > 0 && taken + 1 + length > width)
            {
                yield return line.ToString();
                line.Clear();
                taken = 0;
            }

            line.Append(taken > 0 ? " " : "").Append(word);
            taken += length + (taken > 0 ? 1 : 0);
        }

        yield return line.ToString();
    }
}
