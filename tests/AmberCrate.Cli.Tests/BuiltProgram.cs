using System.Diagnostics;
using AmberCrate.Tests;

namespace AmberCrate.Cli.Tests;

/// <summary>
/// The program that the tests run: the one that the variable ACRATE names; else the native build, which is made once where the
/// tools for it are there, and again when its sources have changed; else the ordinary build, which is thirty times slower to
/// start. Which one it is, and why, is said on standard error.
/// </summary>
internal static class BuiltProgram
{
    public static string Repository { get; } = FindRepository();
    private static readonly string[] Sources = ["src", "Directory.Build.props", "Directory.Packages.props", "eng/publish"];

    /// <summary>The path of the program.</summary>
    public static string Path { get; } = Find();

    private static string Find()
    {
        if (Environment.GetEnvironmentVariable("ACRATE") is { Length: > 0 } named) return System.IO.Path.GetFullPath(named);
        var ordinary = System.IO.Path.Combine(AppContext.BaseDirectory, "acrate");
        if (Missing() is { } missing)
        {
            Say($"the ordinary build, which is slower, since {missing} is missing for the native one");
            return ordinary;
        }

        var native = System.IO.Path.Combine(Repository, "artifacts", "native", "acrate");
        if (IsNewest(native))
        {
            Say("the native build in artifacts/native, which is newer than its sources");
            return native;
        }

        Say("the native build, which is made first: two to three minutes");
        if (Publish(System.IO.Path.GetDirectoryName(native)!)) return native;
        Say("the ordinary build, which is slower, since the native one has failed");
        return ordinary;
    }

    /// <summary>What is missing for a native build; null for nothing.</summary>
    private static string? Missing() =>
        !OnPath("gcc") && !OnPath("clang") ? "a C compiler"
        : !File.Exists("/usr/include/zlib.h") ? "zlib.h"
        : null;

    private static bool OnPath(string program) => (Environment.GetEnvironmentVariable("PATH") ?? "").Split(':')
        .Any(folder => folder.Length > 0 && File.Exists(System.IO.Path.Combine(folder, program)));

    private static bool IsNewest(string native)
    {
        if (!File.Exists(native)) return false;
        var made = File.GetLastWriteTimeUtc(native);
        return Sources.SelectMany(FilesIn).All(file => File.GetLastWriteTimeUtc(file) < made);
    }

    private static IEnumerable<string> FilesIn(string name)
    {
        var path = System.IO.Path.Combine(Repository, name);
        if (File.Exists(path)) return [path];
        return Directory.EnumerateDirectories(path)
            .SelectMany(project => Directory.EnumerateFiles(project).Concat(Directory.EnumerateDirectories(project)
                .Where(folder => System.IO.Path.GetFileName(folder) is not ("bin" or "obj"))
                .SelectMany(folder => Directory.EnumerateFiles(folder, "*", SearchOption.AllDirectories))));
    }

    private static bool Publish(string folder)
    {
        using var process = Process.Start(new ProcessStartInfo(System.IO.Path.Combine(Repository, "eng", "publish"), [folder])
        {
            RedirectStandardOutput = true, UseShellExecute = false,
        })!;
        process.ReadOutput(TimeSpan.FromMinutes(20));
        process.EndInTime();
        return process.ExitCode == 0;
    }

    private static string FindRepository()
    {
        var folder = AppContext.BaseDirectory;
        while (!File.Exists(System.IO.Path.Combine(folder, "AmberCrate.slnx"))) folder = System.IO.Path.GetDirectoryName(folder)!;
        return folder;
    }

    private static void Say(string which) => Console.Error.WriteLine($"tests of the program: {which}");
}
