using System.Diagnostics;
using System.Text;

namespace AmberCrate.Playhouse;

/// <summary>Runs commands as a technician types them, prints what comes back, and checks it.</summary>
public sealed class Stage(string folder, string acrate)
{
    private readonly List<string> _faults = [];

    /// <summary>The machine at which the technician sits.</summary>
    public string Machine { get; set; } = "paintframe-01";

    /// <summary>How many checks have been made.</summary>
    public int Checks { get; private set; }

    /// <summary>What was not as it should be.</summary>
    public IReadOnlyList<string> Faults => _faults;

    /// <summary>The root of a machine.</summary>
    public string RootOf(string machine) => Path.Combine(folder, machine);

    /// <summary>Where a machine keeps what it has fetched.</summary>
    public string CacheOf(string machine) => Path.Combine(RootOf(machine), ".cache", "amber-crate", "downloads");

    /// <summary>Says what comes next.</summary>
    public static void Say(string text) => Console.WriteLine($"\n# {text}");

    /// <summary>Runs a command.</summary>
    /// <param name="command">The command, as typed; parts in single quotes stay together.</param>
    /// <param name="exitCode">The exit code it must end with.</param>
    /// <param name="shows">What its output must hold.</param>
    /// <returns>The output.</returns>
    public string Run(string command, int exitCode, params string[] shows)
    {
        Console.WriteLine($"\n{Machine}$ {command}");
        var (code, output) = Start(Split(command));
        Console.Write(output);
        Check(code == exitCode, $"{command}: ended with {code} instead of {exitCode}");
        foreach (var text in shows)
            Check(output.Contains(text, StringComparison.Ordinal), $"{command}: its output lacks \"{text}\"");
        return output;
    }

    /// <summary>Runs a command without showing it.</summary>
    public string Look(params string[] words) => Start([.. words]).Output;

    /// <summary>Checks something.</summary>
    public void Check(bool holds, string otherwise)
    {
        Checks++;
        if (holds) return;
        _faults.Add(otherwise);
        Console.WriteLine($"!! {otherwise}");
    }

    private (int Code, string Output) Start(List<string> words)
    {
        var bin = Path.Combine(RootOf(Machine), ".local", "bin");
        var program =
            words[0] == "acrate" ? acrate : File.Exists(Path.Combine(bin, words[0])) ? Path.Combine(bin, words[0]) : words[0];
        var start = new ProcessStartInfo(program, words.Skip(1))
        {
            RedirectStandardOutput = true, RedirectStandardError = true, RedirectStandardInput = true, UseShellExecute = false,
            WorkingDirectory = folder,
        };
        start.Environment["ACRATE_ROOT"] = RootOf(Machine);
        start.Environment["ACRATE_CACHE"] = CacheOf(Machine);
        start.Environment["HOME"] = RootOf(Machine);
        using var process = new Process { StartInfo = start };
        var output = new StringBuilder();
        void Take(object _, DataReceivedEventArgs line)
        {
            if (line.Data is null) return;
            lock (output) output.Append(line.Data).Append('\n');
        }

        process.OutputDataReceived += Take;
        process.ErrorDataReceived += Take;
        process.Start();
        process.StandardInput.Close();
        process.BeginOutputReadLine();
        process.BeginErrorReadLine();
        process.WaitForExit();
        return (process.ExitCode, output.ToString());
    }

    private static List<string> Split(string command)
    {
        var words = new List<string>();
        var word = new StringBuilder();
        var quoted = false;
        foreach (var c in command)
        {
            if (c == '\'') quoted = !quoted;
            else if (c != ' ' || quoted) word.Append(c);
            else if (word.Length > 0)
            {
                words.Add(word.ToString());
                word.Clear();
            }
        }

        if (word.Length > 0) words.Add(word.ToString());
        return words;
    }
}
