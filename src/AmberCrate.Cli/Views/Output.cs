using System.Buffers;
using System.Text;
using AmberCrate.Cli.Documents;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Host;
using Spectre.Console;
using Spectre.Console.Rendering;

namespace AmberCrate.Cli.Views;

/// <summary>Where results go: a person at a terminal, a pipe, or a program that reads JSON.</summary>
internal sealed class Output : IDisposable
{
    private const int DefaultWidth = 100, LeastWidth = 20, TextBuffer = 1 << 11;

    private readonly OutputStream _bytes = new();
    private readonly StreamWriter _text;
    private readonly bool _outIsTerminal;
    private readonly bool _hasColour;
    private bool _hasLines;

    /// <summary>Makes an output.</summary>
    /// <param name="isJson">Whether JSON is wanted.</param>
    /// <param name="hasColour">Whether colours may be used on a terminal.</param>
    /// <param name="call">The options that suggested commands carry.</param>
    public Output(bool isJson, bool hasColour, CallOptions call)
    {
        (IsJson, Call, _hasColour) = (isJson, call, hasColour);
        _outIsTerminal = OutputStream.IsTerminal(OutputStream.Descriptor);
        ErrorIsTerminal = OutputStream.IsTerminal(OutputStream.ErrorDescriptor);
        _text = new StreamWriter(_bytes, new UTF8Encoding(false), TextBuffer) { AutoFlush = false };
    }

    /// <summary>Whether JSON is wanted.</summary>
    public bool IsJson { get; }

    /// <summary>Whether the results go to a terminal.</summary>
    public bool IsTerminal => _outIsTerminal;

    /// <summary>Whether each step is told.</summary>
    public bool IsVerbose { get; init; }

    /// <summary>Whether only problems are told.</summary>
    public bool IsQuiet { get; init; }

    /// <summary>The options that suggested commands carry.</summary>
    public CallOptions Call { get; }

    /// <summary>Whether somebody watches standard error.</summary>
    public bool ErrorIsTerminal { get; }

    /// <summary>The width of the terminal in columns.</summary>
    public static int Width =>
        Console.IsOutputRedirected || Console.WindowWidth < LeastWidth ? DefaultWidth : Console.WindowWidth;

    /// <summary>
    /// The terminal on which something may move or is asked: that of the results where they go to one, so that both keep out of
    /// each other's way. From then on all that is written to it is seen at once.
    /// </summary>
    public IAnsiConsole Moving
    {
        get
        {
            if (!_outIsTerminal) return ErrorTerminal;
            _text.AutoFlush = true;
            return Terminal;
        }
    }

    private IAnsiConsole Terminal => field ??= ConsoleOn(_text);

    private IAnsiConsole ErrorTerminal => field ??= ConsoleOn(Console.Error);

    /// <summary>Writes a line made of pieces; foreign text in it is made safe.</summary>
    public void Line(params ReadOnlySpan<Cell> pieces)
    {
        Cell[] safe = new Cell[pieces.Length];
        for (var at = 0; at < pieces.Length; at++) safe[at] = pieces[at] with { Text = Printable.Line(pieces[at].Text) };
        if (_outIsTerminal && Moves)
        {
            Terminal.Write(new RawLine(safe));
            return;
        }

        foreach (var piece in safe)
            _text.Write(_outIsTerminal && _hasColour ? Palette.Coloured(piece.Text, piece.Tone) : piece.Text);
        _text.Write('\n');
    }

    /// <summary>A text in the looks of a tone where it goes to a terminal as standard error.</summary>
    public string OnError(string text, Tone tone) => ErrorIsTerminal && _hasColour ? Palette.Coloured(text, tone) : text;

    /// <summary>Whether something moves on the terminal, above which lines must be written with care.</summary>
    public bool Moves { get; set; }

    /// <summary>Writes what to do next, with the options of the call in it.</summary>
    public void Next(Advice advice) => Line("next: " + advice.In(Call));

    /// <summary>Writes text as it is, such as a file that is printed instead of written.</summary>
    public void Raw(string text) => _text.Write(text);

    /// <summary>Writes paragraphs, wrapped and indented on a terminal.</summary>
    public void Paragraphs(string text, int indent)
    {
        foreach (var paragraph in Printable.Lines(text).Trim().Split('\n').Select(paragraph => paragraph.Trim()))
        {
            if (_outIsTerminal && paragraph.Length > 0) Show(new Padder(new Text(paragraph), new Padding(indent, 0, 0, 0)));
            else _text.Write(paragraph.Length == 0 ? "\n" : $"{new string(' ', indent)}{paragraph}\n");
        }
    }

    /// <summary>Writes a table: laid out for the terminal, or in a pipe with one record a line.</summary>
    public void Table(TextTable table)
    {
        if (table.Rows.Count == 0) return;
        if (_outIsTerminal)
        {
            foreach (var part in table.Renderables(Width)) Show(part);
            return;
        }

        foreach (var line in table.Lines()) _text.Write(line + "\n");
    }

    /// <summary>Writes a list: the answer first, then the rows, then what the answer rests on; on one line where there are no
    /// rows.</summary>
    /// <param name="answer">The answer in one line.</param>
    /// <param name="table">The rows.</param>
    /// <param name="basis">What it rests on, such as the age of data; may be empty.</param>
    public void List(string answer, TextTable table, string basis)
    {
        if (table.Rows.Count == 0)
        {
            Line(new Cell(answer, Tone.Strong), new Cell(basis.Length == 0 ? "" : $" · {basis}", Tone.Quiet));
            return;
        }

        Line(new Cell(answer, Tone.Strong));
        Table(table);
        if (basis.Length > 0) Line(new Cell(basis, Tone.Quiet));
    }

    /// <summary>Writes one JSON document; on one line where lines of events have been written.</summary>
    public void Json<T>(T document) => Json(document, isOverLines: !_hasLines && !OutputStream.HasWritten);

    /// <summary>Writes one event as a line of JSON.</summary>
    public void Event<T>(T line)
    {
        _hasLines = true;
        Json(line, isOverLines: false);
    }

    /// <summary>Writes a remark that is no part of the result.</summary>
    public void Notice(Advice text)
    {
        _text.Flush();
        Console.Error.WriteLine($"note: {Printable.Line(text.In(Call))}");
    }

    /// <summary>
    /// Replaces the line at the bottom of the terminal; an empty one takes it away. Only where somebody watches.
    /// </summary>
    public void Status(string text)
    {
        if (!ErrorIsTerminal) return;
        _text.Flush();
        var line = Printable.Line(text);
        Console.Error.Write("\r" + (line.Length >= Width ? line[..(Width - 1)] : line) + "\u001b[K");
    }

    /// <summary>Passes on what has been written so far.</summary>
    public void Flush() => _text.Flush();

    /// <exception cref="IOException">What is left cannot be written, such as where a disk is full.</exception>
    public void Dispose() => _text.Dispose();

    private void Show(IRenderable part) => Terminal.Write(part);

    private void Json<T>(T document, bool isOverLines)
    {
        _text.Flush();
        var pieces = new PieceWriter(_bytes);
        DocumentContext.Write(pieces, document, isOverLines);
        pieces.Write("\n"u8);
        pieces.Flush();
    }

    private IAnsiConsole ConsoleOn(TextWriter writer)
    {
        var console = AnsiConsole.Create(new AnsiConsoleSettings
        {
            Ansi = AnsiSupport.Yes, ColorSystem = _hasColour ? ColorSystemSupport.EightBit : ColorSystemSupport.NoColors,
            Interactive = InteractionSupport.Yes, Out = new AnsiConsoleOutput(writer),
        });
        console.Profile.Width = Width;
        return console;
    }
}
