using System.Buffers;
using System.CommandLine;
using System.Text;
using System.Text.Encodings.Web;
using System.Text.Json;
using AmberCrate.Cli.Commands;
using AmberCrate.Engine.Host;

namespace AmberCrate.Cli.Views;

/// <summary>Where results go: a person at a terminal, a pipe, or a program that reads JSON.</summary>
internal sealed class Output : IDisposable
{
    private const int DefaultWidth = 100;
    private const int TextBuffer = 1 << 11;

    private static readonly JsonWriterOptions JsonLayout = new() { Indented = true, NewLine = "\n", Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };

    private static readonly JsonWriterOptions LineLayout = new() { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };

    private readonly OutputStream _bytes = new();
    private readonly StreamWriter _text;
    private int _blockHeight;
    private bool _hasEvents;
    private readonly bool _outIsTerminal;
    private readonly bool _colour;

    private Output(bool json, bool noColour)
    {
        IsJson = json;
        _outIsTerminal = OutputStream.IsTerminal(OutputStream.Descriptor);
        ErrorIsTerminal = OutputStream.IsTerminal(OutputStream.ErrorDescriptor);
        _colour = !noColour && string.IsNullOrEmpty(Environment.GetEnvironmentVariable("NO_COLOR")) && Environment.GetEnvironmentVariable("TERM") is not (null or "" or "dumb");
        _text = new StreamWriter(_bytes, new UTF8Encoding(false), TextBuffer) { AutoFlush = false };
    }

    /// <summary>Whether one JSON document is wanted.</summary>
    public bool IsJson { get; }

    /// <summary>Whether somebody watches standard error.</summary>
    public bool ErrorIsTerminal { get; }

    /// <summary>The width of the terminal in columns.</summary>
    public static int Width => Console.IsOutputRedirected || Console.WindowWidth < 20 ? DefaultWidth : Console.WindowWidth;

    /// <summary>The output that a command line asks for.</summary>
    public static Output Of(ParseResult parsed) => new(parsed.GetValue(CommonOptions.Json), parsed.GetValue(CommonOptions.NoColour));

    /// <summary>Writes a line made of pieces; foreign text in it is made safe.</summary>
    public void Line(params ReadOnlySpan<Cell> pieces)
    {
        foreach (var piece in pieces) Write(Printable.Line(piece.Text), piece.Tone);
        _text.Write('\n');
    }

    /// <summary>Writes text as it is, such as a file that is printed instead of written.</summary>
    public void Raw(string text) => _text.Write(text);

    /// <summary>Writes paragraphs, wrapped and indented on a terminal.</summary>
    public void Paragraphs(string text, int indent)
    {
        foreach (var paragraph in Printable.Lines(text).Trim().Split('\n'))
        {
            foreach (var line in _outIsTerminal ? WordWrap.Lines(paragraph.Trim(), Width - indent) : [paragraph.Trim()])
                _text.Write(line.Length == 0 ? "\n" : $"{new string(' ', indent)}{line}\n");
        }
    }

    /// <summary>Writes a table: aligned columns on a terminal and in a pipe, where no line is wrapped or cut.</summary>
    public void Table(TextTable table)
    {
        if (table.Rows.Count > 0) table.Write(_outIsTerminal ? Width : null, Write);
    }

    /// <summary>Writes one JSON document; as one more line where events have been written.</summary>
    public void Json(Action<Utf8JsonWriter> write) => WriteJson(write, _hasEvents ? LineLayout : JsonLayout);

    /// <summary>Writes one event as a line of JSON.</summary>
    /// <param name="name">What happens.</param>
    /// <param name="write">Writes further fields into the object.</param>
    public void Event(string name, Action<Utf8JsonWriter> write)
    {
        _hasEvents = true;
        WriteJson(
            json =>
            {
                json.WriteStartObject();
                json.WriteString("event", name);
                write(json);
                json.WriteEndObject();
            },
            LineLayout);
    }

    /// <summary>Writes a remark that is no part of the result.</summary>
    public void Notice(string text)
    {
        _text.Flush();
        Console.Error.WriteLine($"note: {Printable.Line(text)}");
    }

    /// <summary>Replaces the line at the bottom of the terminal; an empty one takes it away. Only where somebody watches.</summary>
    public void Status(string text)
    {
        if (!ErrorIsTerminal) return;
        _text.Flush();
        var line = Printable.Line(text);
        Console.Error.Write("\r" + (line.Length >= Width ? line[..(Width - 1)] : line) + "\u001b[K");
    }

    /// <summary>Replaces the lines at the bottom of the terminal; none take them away. Only where somebody watches.</summary>
    public void Block(IReadOnlyList<IReadOnlyList<Cell>> lines)
    {
        if (!ErrorIsTerminal || (lines.Count == 0 && _blockHeight == 0)) return;
        _text.Flush();
        var screen = new StringBuilder("\r");
        if (_blockHeight > 0) screen.Append("\u001b[").Append(_blockHeight).Append('A');
        screen.Append("\u001b[J");
        foreach (var line in lines)
        {
            var room = Math.Max(1, Width - 1);
            foreach (var piece in line)
            {
                var text = DisplayWidth.Pieces(Printable.Line(piece.Text), Math.Max(1, room)).FirstOrDefault() ?? "";
                if (room <= 0) break;
                room -= DisplayWidth.Of(text);
                screen.Append(_colour ? Palette.Coloured(text, piece.Tone) : text);
            }

            screen.Append('\n');
        }

        _blockHeight = lines.Count;
        Console.Error.Write(screen.ToString());
    }

    /// <summary>Asks a question that is answered with yes or no.</summary>
    /// <exception cref="OperationCanceledException">The person interrupted instead of answering.</exception>
    public bool Ask(string question, CancellationToken cancel)
    {
        _text.Flush();
        Console.Error.Write($"{Printable.Line(question)} [y/N] ");
        var answer = Task.Run(Console.In.ReadLine, CancellationToken.None);
        try
        {
            answer.Wait(cancel);
        }
        catch (OperationCanceledException)
        {
            Console.Error.WriteLine();
            throw;
        }

        return answer.Result?.Trim().ToLowerInvariant() is "y" or "yes";
    }

    /// <summary>Passes on what has been written so far.</summary>
    public void Flush() => _text.Flush();

    /// <exception cref="IOException">What is left cannot be written, such as where a disk is full.</exception>
    public void Dispose() => _text.Dispose();

    private void WriteJson(Action<Utf8JsonWriter> write, JsonWriterOptions layout)
    {
        var bytes = new ArrayBufferWriter<byte>();
        using (var json = new Utf8JsonWriter(bytes, layout)) write(json);
        bytes.Write("\n"u8);
        _text.Flush();
        _bytes.Write(bytes.WrittenSpan);
    }

    private void Write(string text, Tone tone) => _text.Write(_outIsTerminal && _colour ? Palette.Coloured(text, tone) : text);
}
