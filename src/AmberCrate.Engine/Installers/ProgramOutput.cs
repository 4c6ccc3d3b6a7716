using System.Text;

namespace AmberCrate.Engine.Installers;

/// <summary>What a program writes: passed on line by line up to a limit, and the last of it kept.</summary>
/// <param name="say">Receives every line, up to a limit.</param>
internal sealed class ProgramOutput(Action<string> say)
{
    private const int MostLines = 20_000, KeptLines = 4, LongestLine = 2000, LongestKept = 200;

    private readonly Queue<string> _last = new();
    private int _count;

    /// <summary>The last lines.</summary>
    public IReadOnlyList<string> Last
    {
        get
        {
            lock (_last) return [.. _last];
        }
    }

    /// <summary>Reads a stream of it to its end.</summary>
    public void ReadFrom(StreamReader reader)
    {
        try
        {
            var line = new StringBuilder();
            var buffer = new char[4096];
            for (int read; (read = reader.Read(buffer)) > 0;)
            {
                foreach (var letter in buffer.AsSpan(0, read))
                {
                    if (letter is '\n' or '\r') Add(line);
                    else if (line.Length < LongestLine) line.Append(letter);
                }
            }

            Add(line);
        }
        catch (Exception gone) when (gone is IOException or ObjectDisposedException)
        {
            // The program has closed it, or was ended.
        }
    }

    private void Add(StringBuilder line)
    {
        var text = line.ToString().Trim();
        line.Clear();
        if (text.Length == 0) return;
        lock (_last)
        {
            _last.Enqueue(text.Length > LongestKept ? text[..LongestKept] + "…" : text);
            if (_last.Count > KeptLines) _last.Dequeue();
            if (++_count < MostLines) say(text);
            else if (_count == MostLines) say("more lines than these are not kept");
        }
    }
}
