using System.Net;
using System.Security.Authentication;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Storage;

namespace AmberCrate.Engine.Host;

/// <summary>Says in the words of the trade what the framework's exceptions about files, network and database mean.</summary>
public static class IoProblems
{
    private const int NoSpace = 28, QuotaExceeded = 122, ReadOnlyFileSystem = 30, NotPermitted = 1, AccessDenied = 13;
    private const int SqliteFull = 13, SqliteFailedIo = 10, SqliteReadOnly = 8, SqliteCannotOpen = 14, SqliteCorrupt = 11, SqliteNotADatabase = 26, SqliteBusy = 5;

    /// <summary>Whether an exception is about the machine or the network, rather than a mistake in this program.</summary>
    public static bool IsExpected(Exception exception) =>
        exception is ProblemException or IOException or UnauthorizedAccessException or HttpRequestException or DatabaseException or TimeoutException or FormatException;

    /// <summary>The problem behind an exception.</summary>
    /// <param name="exception">An exception for which <see cref="IsExpected"/> holds.</param>
    /// <param name="what">What was being done, as the beginning of a sentence: "Gantry Plot cannot be unpacked".</param>
    public static Problem Of(Exception exception, string what) => exception switch
    {
        ProblemException known => known.Problem,
        HttpRequestException http => OfHttp(http, what),
        TimeoutException late => new Problem(ProblemCode.Unreachable, what, late.Message, "try again; ACRATE_NETWORK_TIMEOUT sets the seconds to wait"),
        UnauthorizedAccessException denied => NoRights(what, denied.Message),
        DatabaseException database => OfDatabase(database, what),
        FormatException format => new Problem(ProblemCode.NotVerified, what, format.Message),
        InvalidDataException or EndOfStreamException => new Problem(ProblemCode.NotVerified, what, exception.Message),
        IOException io => OfFile(io, what),
        _ => new Problem(ProblemCode.StateNeedsAttention, what, exception.Message),
    };

    private static Problem OfFile(IOException fault, string what) => fault.HResult switch
    {
        NoSpace or QuotaExceeded => new Problem(ProblemCode.StateNeedsAttention, what, "the disk is full", "make room and run the command again"),
        ReadOnlyFileSystem or NotPermitted or AccessDenied => NoRights(what, fault.Message),
        _ => new Problem(ProblemCode.StateNeedsAttention, what, fault.Message),
    };

    private static Problem NoRights(string what, string why) =>
        new(ProblemCode.NoRights, what, why, "check who owns the folder, or name another with --root");

    private static Problem OfHttp(HttpRequestException fault, string what)
    {
        if (fault.HttpRequestError == HttpRequestError.SecureConnectionError || fault.InnerException is AuthenticationException)
            return new Problem(ProblemCode.Unreachable, what, "the server's certificate is not trusted on this machine", "check the address; where the server is your own, add its authority to the system's");
        return new Problem(ProblemCode.Unreachable, what, Why(fault), fault switch
        {
            { StatusCode: HttpStatusCode.NotFound or HttpStatusCode.Gone } => "acrate catalogue refresh, in case the catalogue has changed; otherwise tell its keeper",
            ServerAnswerException { RetryAfter: { } wait } when wait > RetryRule.LongestAskedFor => "try again after that time",
            _ => "check the network and the server, then try again",
        });
    }

    private static string Why(HttpRequestException fault)
    {
        if (fault.StatusCode is { } status)
        {
            var asks = fault is ServerAnswerException { RetryAfter: { } wait } && wait > RetryRule.LongestAskedFor ? $", and asks to be left alone for {Math.Ceiling(wait.TotalMinutes):0} minutes" : "";
            return $"the server answers {(int)status} {Words(status)}{asks}";
        }

        // What the framework says of a connection that ended early is about bytes that it had expected.
        return fault.InnerException is { } cause and not HttpIOException { HttpRequestError: HttpRequestError.ResponseEnded } && !fault.Message.Contains(cause.Message, StringComparison.Ordinal) ? $"{fault.Message}: {cause.Message}" : fault.Message;
    }

    private static string Words(HttpStatusCode status) =>
        string.Concat(status.ToString().Select((c, at) => at > 0 && char.IsUpper(c) ? $" {c}" : $"{c}"));

    /// <summary>Whether there is no room left for as much as SQLite takes at a time; it does not say so where it shares memory through a file.</summary>
    private static bool IsFull(string file)
    {
        const long atATime = 64 << 10;
        try
        {
            return file.Length > 0 && new DriveInfo(Path.GetDirectoryName(file)!).AvailableFreeSpace < atATime;
        }
        catch (Exception fault) when (fault is IOException or UnauthorizedAccessException or ArgumentException)
        {
            return false;
        }
    }

    private static string WhenDamaged(string file) => file switch
    {
        MachineLayout.RecordsName => $"put a copy of it back; without one move it away with {file}-wal and {file}-shm, add the catalogues again, and install what is in place: acrate tells what that is",
        "" => "",
        _ => $"remove it, and {file}-wal and {file}-shm beside it: acrate catalogue refresh makes it anew",
    };

    private static Problem OfDatabase(DatabaseException fault, string what) => fault.Code switch
    {
        SqliteFull or SqliteFailedIo when fault.Code == SqliteFull || IsFull(fault.File) => new Problem(ProblemCode.StateNeedsAttention, what, "the disk is full", "make room and run the command again"),
        SqliteReadOnly or SqliteCannotOpen => NoRights(what, "the database cannot be opened for writing"),
        SqliteBusy => new Problem(ProblemCode.Locked, what, "another program is writing to the database", "try again"),
        SqliteCorrupt or SqliteNotADatabase => new Problem(ProblemCode.StateNeedsAttention, what, fault.File.Length > 0 && !what.Contains(fault.File, StringComparison.Ordinal) ? $"the database {fault.File} is damaged" : "the database is damaged", WhenDamaged(Path.GetFileName(fault.File))),
        _ => new Problem(ProblemCode.StateNeedsAttention, what, fault.Message),
    };
}
