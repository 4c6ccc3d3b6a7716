using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Installers;

/// <summary>How the terminal of this process was set before it was made to pass on every key.</summary>
internal sealed class TerminalMode
{
    private readonly byte[] _before;

    private TerminalMode(byte[] before) => _before = before;

    /// <summary>Makes the terminal pass on every key as it is typed, without showing it; null where there is none.</summary>
    public static TerminalMode? MakeRaw() => Posix.MakeTerminalRaw(0) is { } before ? new TerminalMode(before) : null;

    /// <summary>Restores the terminal.</summary>
    public void Restore() => Posix.SetTerminal(0, _before);
}
