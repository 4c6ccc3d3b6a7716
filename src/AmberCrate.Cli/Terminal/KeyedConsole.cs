using Spectre.Console;
using Spectre.Console.Rendering;

namespace AmberCrate.Cli.Terminal;

/// <summary>A console whose keys are read by <see cref="TerminalKeys"/>.</summary>
/// <param name="console">The console.</param>
internal sealed class KeyedConsole(IAnsiConsole console) : IAnsiConsole
{
    public Profile Profile => console.Profile;

    public IAnsiConsoleCursor Cursor => console.Cursor;

    public IAnsiConsoleInput Input { get; } = new TerminalKeys.Reader();

    public IExclusivityMode ExclusivityMode => console.ExclusivityMode;

    public RenderPipeline Pipeline => console.Pipeline;

    public void Clear(bool home) => console.Clear(home);

    public void Write(IRenderable renderable) => console.Write(renderable);

    public void WriteAnsi(Action<AnsiWriter> action) => console.WriteAnsi(action);
}
