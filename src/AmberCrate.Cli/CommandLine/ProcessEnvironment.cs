using AmberCrate.Cli.Terminal;
using AmberCrate.Engine.Host;

namespace AmberCrate.Cli.CommandLine;

/// <summary>Reads what is around this process.</summary>
internal static class ProcessEnvironment
{
    public static HostEnvironment Read(bool isVerbose) => new()
    {
        Variable = Environment.GetEnvironmentVariable,
        VariableNames = VariableNames(),
        Clock = TimeProvider.System,
        Folder = Environment.CurrentDirectory,
        MachineName = Environment.MachineName,
        Person = Person(),
        Trace = isVerbose ? TraceView.Write : _ => { },
        Program = Program(),
        Arguments = [.. Environment.GetCommandLineArgs().Skip(1)],
        HasTerminal = !Console.IsInputRedirected && !Console.IsErrorRedirected,
    };

    private static IReadOnlyList<string> VariableNames() => [.. Environment.GetEnvironmentVariables().Keys.Cast<string>()];

    /// <summary>Who runs the program: for root, whoever has raised their rights, as far as that is said.</summary>
    private static string? Person()
    {
        var raised = Environment.IsPrivilegedProcess ? Environment.GetEnvironmentVariable("SUDO_USER") : null;
        var name = raised is { Length: > 0 and < 100 } ? raised : UserName();
        return name.Length > 0 ? name : null;
    }

    /// <summary>The name of this user; empty where the system does not know it, as in a bare image.</summary>
    private static string UserName()
    {
        try
        {
            return Environment.UserName;
        }
        catch (Exception unknown) when (unknown is InvalidOperationException or IOException or NotSupportedException)
        {
            return "";
        }
    }

    private static string[] Program()
    {
        var program = Environment.ProcessPath ?? "acrate";
        return Path.GetFileNameWithoutExtension(program) == "dotnet"
            ? [program, Path.Combine(AppContext.BaseDirectory, "acrate.dll")]
            : [program];
    }
}
