using System.Diagnostics;
using System.Runtime.CompilerServices;
using System.Text;

namespace AmberCrate.Tests;

/// <summary>
/// Reads what a program writes, and waits for its end, for a limited time. A program that takes longer is killed with all that it
/// has started, and the test fails with what had been written. Reading a pipe cannot be cancelled, so a thread of its own reads.
/// </summary>
internal static class ProcessLimits
{
    /// <summary>How long a program may take: so long that only one that hangs reaches it, on a busy machine too.</summary>
    public static readonly TimeSpan Usual = TimeSpan.FromMinutes(3);

    private static readonly TimeSpan Grace = TimeSpan.FromSeconds(10);
    private static readonly ConditionalWeakTable<Process, List<StringBuilder>> Written = [];

    /// <summary>Reads standard output to its end.</summary>
    public static string ReadOutput(this Process process, TimeSpan? limit = null) =>
        process.ReadOutputAsync(limit).GetAwaiter().GetResult();

    /// <inheritdoc cref="ReadOutput"/>
    public static Task<string> ReadOutputAsync(this Process process, TimeSpan? limit = null) =>
        ReadAsync(process, process.StandardOutput, limit ?? Usual);

    /// <summary>Reads standard output to its end, and answers a question once it is there.</summary>
    public static Task<string> ReadAndAnswerAsync(this Process process, string question, string answer)
    {
        var isAnswered = false;
        return ReadAsync(process, process.StandardOutput, Usual, text =>
        {
            if (isAnswered || !text.Contains(question, StringComparison.Ordinal)) return;
            process.StandardInput.Write(answer);
            process.StandardInput.Flush();
            isAnswered = true;
        });
    }

    /// <summary>Reads standard error to its end.</summary>
    public static Task<string> ReadErrorsAsync(this Process process, TimeSpan? limit = null) =>
        ReadAsync(process, process.StandardError, limit ?? Usual);

    /// <summary>Waits until the program has ended.</summary>
    public static void EndInTime(this Process process, TimeSpan? limit = null)
    {
        if (!process.WaitForExit(limit ?? Usual)) throw Killed(process);
    }

    /// <inheritdoc cref="EndInTime"/>
    public static Task EndInTimeAsync(this Process process, TimeSpan? limit = null) =>
        Task.Factory.StartNew(() => process.EndInTime(limit), TaskCreationOptions.LongRunning);

    private static async Task<string> ReadAsync(
        Process process, StreamReader reader, TimeSpan limit, Action<string>? watch = null)
    {
        var text = new StringBuilder();
        var all = Written.GetOrCreateValue(process);
        lock (all) all.Add(text);
        var reading = Task.Factory.StartNew(() => Read(reader, text, watch), TaskCreationOptions.LongRunning);
        if (await Task.WhenAny(reading, Task.Delay(limit)) != reading)
        {
            var killed = Killed(process);
            await Task.WhenAny(reading, Task.Delay(Grace));
            throw killed;
        }

        await reading;
        return text.ToString();
    }

    private static void Read(StreamReader reader, StringBuilder text, Action<string>? watch)
    {
        var buffer = new char[4096];
        for (int read; (read = reader.Read(buffer)) > 0;)
        {
            lock (text) text.Append(buffer, 0, read);
            watch?.Invoke(text.ToString());
        }
    }

    private static TimeoutException Killed(Process process)
    {
        var command = $"{process.StartInfo.FileName} {string.Join(' ', process.StartInfo.ArgumentList)}";
        if (!process.HasExited) process.Kill(entireProcessTree: true);
        var said = new StringBuilder();
        foreach (var text in Written.TryGetValue(process, out var all) ? all : [])
        {
            lock (text) said.Append(text);
        }

        return new TimeoutException($"{command} was killed, since it did not end in time; it had written:\n{said}");
    }
}
