using System.ComponentModel;
using System.Diagnostics;

namespace AmberCrate.Engine.Host;

/// <summary>Asks programs of the system that need no input and end soon.</summary>
internal static class SystemProgram
{
    private static readonly TimeSpan ForTheRest = TimeSpan.FromSeconds(1);

    /// <summary>Runs a program and waits for its end; one that takes too long is stopped with all that it has started.</summary>
    /// <param name="path">The program, as <see cref="ProgramSearch"/> finds it.</param>
    /// <param name="arguments">Its arguments.</param>
    /// <param name="patience">How long it may take.</param>
    /// <param name="variables">All of its variables; null for those of this process.</param>
    public static ProgramAnswer Ask(
        string path, IEnumerable<string> arguments, TimeSpan patience, IReadOnlyDictionary<string, string>? variables = null)
    {
        var start = new ProcessStartInfo(path, arguments)
        {
            RedirectStandardInput = true, RedirectStandardOutput = true, RedirectStandardError = true, UseShellExecute = false,
        };
        if (variables is not null)
        {
            start.Environment.Clear();
            foreach (var (name, value) in variables) start.Environment[name] = value;
        }

        try
        {
            using var process = Process.Start(start)!;
            process.StandardInput.Close();
            var (output, errors) = (process.StandardOutput.ReadToEndAsync(), process.StandardError.ReadToEndAsync());
            if (process.WaitForExit(patience) && Task.WaitAll([output, errors], ForTheRest))
                return new ProgramAnswer(process.ExitCode, output.Result, errors.Result);
            process.Kill(entireProcessTree: true);
            return new ProgramAnswer(null, "", $"had not ended after {patience.TotalSeconds} seconds, and was stopped");
        }
        catch (Exception fault) when (fault is Win32Exception or IOException or InvalidOperationException)
        {
            return new ProgramAnswer(null, "", fault.Message);
        }
    }
}
