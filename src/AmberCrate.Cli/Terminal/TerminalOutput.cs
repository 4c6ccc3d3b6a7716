using System.Text;
using AmberCrate.Engine.SystemCalls;
using Spectre.Console;

namespace AmberCrate.Cli.Terminal;

/// <summary>A terminal for the table package, which asks the framework's console for nothing.</summary>
/// <param name="writer">Writes to it.</param>
internal sealed class TerminalOutput(TextWriter writer) : IAnsiConsoleOutput
{
    private const int UsualHeight = 24;

    public TextWriter Writer => writer;

    public bool IsTerminal => true;

    public int Width => Output.Width;

    public int Height => TerminalDevice.Size() is { Lines: > 0 and var lines } ? lines : UsualHeight;

    public void SetEncoding(Encoding encoding)
    {
        // The writer has its encoding already.
    }
}
