using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Host;

/// <summary>What a caller may have set for this process that would do harm.</summary>
public static class ProcessSetup
{
    /// <summary>
    /// Opens /dev/null instead of standard input, output and error where they are closed; lets only the owner write to what this
    /// process makes; and has a file that may not become larger end in an error instead of the end of the process.
    /// </summary>
    public static void Begin()
    {
        Posix.OpenStandardDescriptors();
        Posix.KeepOthersFromWriting();
        Posix.IgnoreFileSizeSignal();
    }

    /// <summary>Lets everybody read what this process makes from now on, for all users' apps: umask = 022.</summary>
    public static void MakeReadableByAll() => Posix.MakeReadableByAll();

    /// <summary>Ends this process at once, from any thread: what else it has to do is left to the next one.</summary>
    /// <param name="code">Its exit code.</param>
    public static void EndNow(int code) => Posix.EndNow(code);
}
