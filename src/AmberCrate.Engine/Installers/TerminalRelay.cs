using System.Diagnostics;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Installers;

/// <summary>
/// Lets a user answer a confined program. It gets a terminal of its own, made by script(1), and never this one: a program that
/// holds a terminal can put words into the shell behind it. What is typed here is passed on, and what it writes is shown.
/// </summary>
internal sealed class TerminalRelay : IDisposable
{
    private readonly TerminalMode? _before = TerminalMode.MakeRaw();
    private readonly CancellationTokenSource _stop = new();

    /// <summary>Begins to pass on.</summary>
    /// <param name="process">The program, started with <see cref="OnTerminal"/>.</param>
    public TerminalRelay(Process process)
    {
        Output = Task.Run(() => PassOn(process.StandardOutput.BaseStream));
        _ = Task.Run(() => TypeInto(process.StandardInput.BaseStream));
    }

    /// <summary>Ends once the program has closed its side.</summary>
    public Task Output { get; }

    /// <summary>The words that start a program on a terminal of its own.</summary>
    /// <exception cref="ProblemException">There is no script(1) on this machine.</exception>
    public static IReadOnlyList<string> OnTerminal(IReadOnlyList<string> words)
    {
        var script = ProgramSearch.Trusted("script") ?? throw new Problem(
            ProblemCode.Refused, "the installer cannot be answered", "the program script is missing on this machine",
            "install util-linux or bsdutils, or leave --attended out").ToException();
        return [script, "--quiet", "--return", "--flush", "--command", string.Join(' ', words.Select(ShellWord.Quote)),
            "/dev/null"];
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        _stop.Cancel();
        _before?.Restore();
        _stop.Dispose();
    }

    private static void PassOn(Stream from)
    {
        using var here = Console.OpenStandardOutput();
        var buffer = new byte[4096];
        var text = new TerminalText();
        try
        {
            for (int read; (read = from.Read(buffer)) > 0;)
            {
                here.Write(text.Tame(buffer.AsSpan(0, read)));
                here.Flush();
            }
        }
        catch (Exception gone) when (gone is IOException or ObjectDisposedException)
        {
            // The program has closed it, or was ended.
        }
    }

    private void TypeInto(Stream to)
    {
        var buffer = new byte[256];
        var token = _stop.Token;
        try
        {
            while (!token.IsCancellationRequested)
            {
                if (!Posix.HasInput(0, milliseconds: 100)) continue;
                var read = Posix.Read(0, buffer);
                if (read <= 0) return;
                to.Write(buffer, 0, read);
                to.Flush();
            }
        }
        catch (Exception gone) when (gone is IOException or ObjectDisposedException)
        {
            // The program has ended.
        }
    }
}
