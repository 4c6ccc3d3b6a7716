using System.Net.Sockets;
using System.Security.Authentication;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Host;

/// <summary>Says in the words of the trade what the framework's exceptions about files and network mean.</summary>
public static class IoProblems
{
    private const int NoSpace = 28, QuotaExceeded = 122, ReadOnlyFileSystem = 30, NotPermitted = 1, AccessDenied = 13;
    private const int TooLargeFile = 27, TooManyFiles = 24, TooManyFilesInSystem = 23, TooLongName = 36;

    /// <summary>
    /// Whether an exception is about the machine, the network or a file that was read, rather than a mistake in this program.
    /// </summary>
    public static bool IsExpected(Exception exception) =>
        exception is ProblemException or IHasProblem or IOException or UnauthorizedAccessException or HttpRequestException
            or TimeoutException or MalformedException
        || (exception is AggregateException many && many.Flatten().InnerExceptions.All(IsExpected));

    /// <summary>Whether an exception means that a disk, a quota or the inodes are used up.</summary>
    public static bool IsNoRoom(Exception exception) => exception switch
    {
        IHasProblem { IsNoRoom: true } => true,
        IOException io when io.HResult is NoSpace or QuotaExceeded => true,
        AggregateException many => many.Flatten().InnerExceptions.Any(IsNoRoom),
        _ => exception.InnerException is { } inner && IsNoRoom(inner),
    };

    /// <summary>The problem behind an exception.</summary>
    /// <param name="exception">An exception that <see cref="IsExpected"/> accepts.</param>
    /// <param name="what">What was being done, as the beginning of a sentence: "Gantry Plot cannot be unpacked".</param>
    public static Problem ToProblem(Exception exception, string what) => exception switch
    {
        // Work on several processors collects what each of them has thrown.
        AggregateException many => ToProblem(many.Flatten().InnerExceptions[0], what),
        ProblemException known => known.Problem,
        IHasProblem explained => explained.Explain(what),
        HttpRequestException http => OfHttp(http, what),
        TimeoutException late =>
            new Problem(
                ProblemCode.Unreachable, what, late.Message, "try again; ACRATE_NETWORK_TIMEOUT sets the seconds to wait"),
        UnauthorizedAccessException denied => NoRights(what, denied.Message),
        MalformedException or InvalidDataException or EndOfStreamException =>
            new Problem(ProblemCode.NotVerified, what, exception.Message),
        PathTooLongException => TooLong(what),
        IOException io => OfFile(io, what),
        _ => new Problem(ProblemCode.StateNeedsAttention, what, exception.Message),
    };

    /// <summary>The problem of a file or folder that may not be written.</summary>
    internal static Problem NoRights(string what, string why) =>
        new(ProblemCode.NoRights, what, why, "check who owns the folder, or name another with --root");

    /// <summary>The problem of a full disk.</summary>
    /// <param name="what">What was being done.</param>
    /// <param name="path">What could not be written; null where that is not known.</param>
    internal static Problem DiskIsFull(string what, string? path) => new(
        ProblemCode.StateNeedsAttention, what, path is null ? "the disk is full" : $"the disk at {MountOf(path)} is full",
        Advice.Combine($"free disk space, for example with {NextCommand.Create("reclaim")}, then run the command again"));

    private static string MountOf(string path)
    {
        for (var folder = path; folder is { Length: > 0 }; folder = Path.GetDirectoryName(folder))
        {
            if (Directory.Exists(folder)) return new MountPoints().FindFor(folder);
        }

        return path;
    }

    /// <summary>The path that a message of the framework ends with, in quotes; null for none.</summary>
    private static string? PathIn(string message)
    {
        var end = message.LastIndexOf('\'');
        var begin = end > 0 ? message.IndexOf('\'') : -1;
        return begin >= 0 && begin < end && message[begin + 1] == '/' ? message[(begin + 1)..end] : null;
    }

    /// <summary>The problem of a file that reaches a limit of this process.</summary>
    internal static Problem TooLarge(string what) => new(
        ProblemCode.StateNeedsAttention, what, "a file would become larger than this process may write",
        "lift the limit (ulimit -f) and run the command again");

    /// <summary>The problem of a path that no file system takes.</summary>
    internal static Problem TooLong(string what) => new(
        ProblemCode.BadCommandLine, what, "the path is too long", "name a folder with a shorter path, such as with --root");

    /// <summary>What to do where a server does not have a file any more.</summary>
    internal static Advice WhenGone =>
        $"{NextCommand.Create("catalogue refresh")}, in case the catalogue has changed; otherwise tell its maintainer";

    private static Problem OfFile(IOException fault, string what) => fault.HResult switch
    {
        NoSpace or QuotaExceeded => DiskIsFull(what, PathIn(fault.Message)),
        TooLargeFile => TooLarge(what),
        TooManyFiles or TooManyFilesInSystem => new Problem(
            ProblemCode.StateNeedsAttention, what, "too many files are open",
            "lift the limit (ulimit -n) and run the command again"),
        TooLongName => TooLong(what),
        ReadOnlyFileSystem or NotPermitted or AccessDenied => NoRights(what, fault.Message),
        _ => new Problem(ProblemCode.StateNeedsAttention, what, fault.Message),
    };

    private static Problem OfHttp(HttpRequestException fault, string what)
    {
        if (fault.HttpRequestError == HttpRequestError.SecureConnectionError || fault.InnerException is AuthenticationException)
        {
            return new Problem(
                ProblemCode.Unreachable, what, "the server's certificate is not trusted on this machine",
                "check the address; where the server is your own, add its authority to the system's");
        }

        return new Problem(ProblemCode.Unreachable, what, Why(fault), "check the network and the server, then try again");
    }

    /// <summary>
    /// What happened to a connection, in plain words. Where the framework names an address in brackets, it is the one that was
    /// dialled: the proxy's where there is one.
    /// </summary>
    private static string Why(HttpRequestException fault)
    {
        var dialled = fault.Message.EndsWith(')') ? $" to {fault.Message[(fault.Message.LastIndexOf('(') + 1)..^1]}" : "";
        var socket = (fault.InnerException as SocketException)?.SocketErrorCode;
        return (fault.HttpRequestError, socket) switch
        {
            (_, SocketError.ConnectionRefused) => $"the connection{dialled} was refused",
            (_, SocketError.HostUnreachable or SocketError.NetworkUnreachable or SocketError.NetworkDown) =>
                "the network does not lead there",
            (_, SocketError.TimedOut) => $"the connection{dialled} was not answered",
            (HttpRequestError.NameResolutionError, _) =>
                $"the name is not known here{dialled.Replace(" to ", ": ", StringComparison.Ordinal)}",
            (HttpRequestError.ProxyTunnelError, _) => "the proxy does not let the connection through",
            (HttpRequestError.ResponseEnded, _) => "the server ended the connection too early",
            (HttpRequestError.InvalidResponse, _) => "the answer is not HTTP",
            (HttpRequestError.ConnectionError, _) => $"the connection{dialled} could not be made",
            _ when fault.InnerException is IOException => "the connection broke off",
            _ => fault.Message,
        };
    }
}
