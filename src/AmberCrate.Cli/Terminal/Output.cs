using System.Buffers;
using System.Diagnostics;
using System.Text;
using AmberCrate.Cli.Tables;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.SystemCalls;
using Spectre.Console;

namespace AmberCrate.Cli.Terminal;

/// <summary>Where results go: a user at a terminal, a pipe, or a program that reads JSON.</summary>
internal sealed class Output : IDisposable
{
    private const int DefaultWidth = 80, LeastWidth = 20, Further = 2, Below = 4, TextBuffer = 1 << 11;

    private readonly OutputStream _bytes = new();
    private readonly StreamWriter _text;
    private readonly bool _outIsTerminal;
    private bool _hasLines;
    private bool _hasStatus;
    private long _told;

    /// <summary>Makes an output.</summary>
    /// <param name="call">The options that suggested commands carry.</param>
    /// <param name="documents">Writes the JSON documents.</param>
    public Output(CallOptions call, DocumentWriter documents)
    {
        (Call, Documents) = (call, documents);
        _outIsTerminal = OutputStream.IsTerminal(OutputStream.Descriptor);
        ErrorIsTerminal = OutputStream.IsTerminal(OutputStream.ErrorDescriptor);
        _text = new StreamWriter(_bytes, new UTF8Encoding(false), TextBuffer) { AutoFlush = false };
    }

    /// <summary>Whether JSON is wanted.</summary>
    public bool IsJson { get; init; }

    /// <summary>Writes the JSON documents.</summary>
    public DocumentWriter Documents { get; }

    /// <summary>Whether the results go to a terminal.</summary>
    public bool IsTerminal => _outIsTerminal;

    /// <summary>Whether each step is reported.</summary>
    public bool IsVerbose { get; init; }

    /// <summary>Whether only problems are reported.</summary>
    public bool IsQuiet { get; init; }

    /// <summary>The options that suggested commands carry.</summary>
    public CallOptions Call { get; }

    /// <summary>Whether someone watches standard error.</summary>
    public bool ErrorIsTerminal { get; }

    /// <summary>The width of the terminal in columns.</summary>
    public static int Width => TerminalDevice.Size() is { Columns: >= LeastWidth and var columns } ? columns : DefaultWidth;

    /// <summary>Whether escape sequences may be written to a terminal: colours, and lines that are drawn again.</summary>
    public bool HasEscapes { get; init; }

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
        Write(Safe(pieces), hang: null);
    }

    /// <summary>
    /// Writes a line. On a terminal its further lines are indented to its last piece: a fact beside its name. A fact that is one
    /// word and does not fit beside its name, such as a digest, goes below it.
    /// </summary>
    public void Fact(params ReadOnlySpan<Cell> pieces)
    {
        var safe = Safe(pieces);
        var hang = safe.SkipLast(1).Sum(piece => DisplayWidth.Measure(piece.Text));
        if (!_outIsTerminal || hang <= Below || !GoesBelow(safe[^1].Text, hang))
        {
            Write(safe, hang);
            return;
        }

        var name = safe[..^1];
        if (safe.Length > 1) name[^1] = name[^1] with { Text = name[^1].Text.TrimEnd() };
        if (name.Any(piece => piece.Text.Length > 0)) WriteAsItIs(name);
        Write([new string(' ', Below), safe[^1]], Below);
    }

    private static bool GoesBelow(string fact, int hang) => !fact.Contains(' ', StringComparison.Ordinal)
        && DisplayWidth.Measure(fact) is var width && width > Width - hang && width <= Width - Below;

    /// <summary>Words with commands in them, as <see cref="Line"/> writes them: a command is never broken.</summary>
    public string FormatAdvice(Advice advice) => advice.In(Call, Wrapping.KeepTogether);

    /// <summary>Writes a line to standard error; foreign text in it is made safe.</summary>
    public void ErrorLine(params ReadOnlySpan<Cell> pieces)
    {
        var safe = Safe(pieces);
        var hang = safe.SkipLast(1).Sum(piece => DisplayWidth.Measure(piece.Text));
        foreach (var line in ErrorIsTerminal ? CellWrapping.Lines(safe, Width, hang, breaksWords: false) : [safe])
            Console.Error.WriteLine(string.Concat(line.Select(piece => Shown(piece, ErrorIsTerminal))));
    }

    /// <summary>Whether something moves on the terminal, above which lines must be written with care.</summary>
    public bool Moves { get; set; }

    /// <summary>Writes what to do next, with the options of the call in it.</summary>
    public void Next(Advice advice) => Fact("next: ", FormatAdvice(advice));

    /// <summary>Writes text as it is, such as a file that is printed instead of written.</summary>
    public void Raw(string text) => _text.Write(text);

    /// <summary>Writes paragraphs, wrapped and indented on a terminal.</summary>
    public void Paragraphs(string text, int indent)
    {
        foreach (var paragraph in Printable.Lines(text).Trim().Split('\n').Select(paragraph => paragraph.Trim()))
        {
            if (paragraph.Length == 0) Line();
            else Fact(new string(' ', indent), paragraph);
        }
    }

    /// <summary>Writes a table: laid out for the terminal, or in a pipe with one record a line.</summary>
    public void Table(TextTable table)
    {
        if (table.Rows.Count == 0) return;
        var lines = _outIsTerminal
            ? TableLayout.Lines(table, Width, IsVerbose)
            : table.Lines().Select(line => (Cell[])[line]);
        foreach (var line in lines) WriteAsItIs(line);
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

    /// <summary>Whether JSON is written as lines, one object each: what a run does.</summary>
    public bool WritesLines { get; init; }

    /// <summary>Writes one JSON document: on one line for a run, or if events have been written.</summary>
    public void Json<T>(T document) => Json(document, isOverLines: !WritesLines && !_hasLines && !OutputStream.HasWritten);

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
        ErrorLine("note: ", FormatAdvice(text));
    }

    /// <summary>
    /// Replaces the line at the bottom of the terminal; an empty one takes it away. Only where someone watches.
    /// </summary>
    public void Status(string text)
    {
        if (!ErrorIsTerminal) return;
        if (!HasEscapes)
        {
            WriteSeldom(text);
            return;
        }

        if (text.Length == 0 && !_hasStatus) return;
        _hasStatus = text.Length > 0;
        _text.Flush();
        Console.Error.Write("\r" + Signs.Shown(DisplayWidth.Start(Printable.Line(text), Width - 1)) + "\u001b[K");
    }

    /// <summary>The shortest time between two lines about long work on a terminal that gets no escape sequences.</summary>
    public static TimeSpan Seldom { get; } = TimeSpan.FromSeconds(10);

    private void WriteSeldom(string text)
    {
        if (_told == 0) _told = Stopwatch.GetTimestamp();
        if (text.Length == 0 || Stopwatch.GetElapsedTime(_told) < Seldom) return;
        _told = Stopwatch.GetTimestamp();
        _text.Flush();
        ErrorLine(text);
    }

    /// <summary>Passes on what has been written so far.</summary>
    public void Flush() => _text.Flush();

    /// <exception cref="IOException">The rest cannot be written, such as where a disk is full.</exception>
    public void Dispose() => _text.Dispose();

    private static Cell[] Safe(ReadOnlySpan<Cell> pieces)
    {
        var safe = new Cell[pieces.Length];
        for (var at = 0; at < pieces.Length; at++) safe[at] = pieces[at] with { Text = Printable.Line(pieces[at].Text) };
        return safe;
    }

    /// <summary>Writes a line, on a terminal broken between words.</summary>
    /// <param name="pieces">Its pieces.</param>
    /// <param name="hang">By how much further lines are indented; null for a little more than the line itself.</param>
    private void Write(Cell[] pieces, int? hang)
    {
        if (!_outIsTerminal)
        {
            WriteAsItIs(pieces);
            return;
        }

        var indent = hang ?? Further + pieces.Select(piece => piece.Text).FirstOrDefault(text => text.Length > 0, "")
            .TakeWhile(c => c == ' ').Count();
        foreach (var line in CellWrapping.Lines(pieces, Width, indent, breaksWords: false)) WriteAsItIs(line);
    }

    private void WriteAsItIs(Cell[] line)
    {
        if (_outIsTerminal && Moves)
        {
            Terminal.Write(new RawLine(
                [.. line.Select(piece => piece with { Text = Signs.Shown(Wrapping.Printed(piece.Text)) })]));
            return;
        }

        foreach (var piece in line) _text.Write(Shown(piece, _outIsTerminal));
        _text.Write('\n');
    }

    private string Shown(Cell piece, bool isTerminal)
    {
        var text = Wrapping.Printed(piece.Text);
        if (isTerminal) text = Signs.Shown(text);
        return isTerminal && HasEscapes ? Palette.Coloured(text, piece.Tone) : text;
    }

    private void Json<T>(T document, bool isOverLines)
    {
        _text.Flush();
        var pieces = new PieceWriter(_bytes);
        if (isOverLines) Documents.WriteDocument(pieces, document);
        else Documents.WriteEvent(pieces, document);
        pieces.Write("\n"u8);
        pieces.Flush();
    }

    private KeyedConsole ConsoleOn(TextWriter writer)
    {
        var console = AnsiConsole.Create(new AnsiConsoleSettings
        {
            Ansi = HasEscapes ? AnsiSupport.Yes : AnsiSupport.No,
            ColorSystem = HasEscapes ? ColorSystemSupport.EightBit : ColorSystemSupport.NoColors,
            Interactive = InteractionSupport.Yes, Out = new TerminalOutput(writer),
        });
        return new KeyedConsole(console);
    }
}
