using System.CommandLine;
using System.Runtime.InteropServices;
using AmberCrate.Cli.CommandLine;
using AmberCrate.Cli.Shared;
using AmberCrate.Cli.Shell;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Rights;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Cli;

/// <summary>The entry of <c>acrate</c>: the one place that turns problems into words and exit codes.</summary>
internal static class Program
{
    public static async Task<int> Main(string[] arguments)
    {
        ProcessSetup.Begin();
        Console.SetError(new StreamWriter(new OutputStream(OutputStream.ErrorDescriptor)) { AutoFlush = true });
        AppDomain.CurrentDomain.UnhandledException += EndWithoutMemory;
        using var cancel = new CancellationTokenSource();
        using var now = new CancellationTokenSource();
        using var interrupt = PosixSignalRegistration.Create(PosixSignal.SIGINT, signal => Stop(signal, cancel, now));
        using var terminate = PosixSignalRegistration.Create(PosixSignal.SIGTERM, signal => Stop(signal, cancel, now));
        using var hangUp = PosixSignalRegistration.Create(PosixSignal.SIGHUP, signal => Stop(signal, cancel, now));
        var parsed = AcrateCommand.For(arguments, now.Token)
            .Parse(arguments, new ParserConfiguration { ResponseFileTokenReplacer = null });
        return await RunAsync(parsed, cancel, isFirst: true);
    }

    private static async Task<int> RunAsync(ParseResult parsed, CancellationTokenSource cancel, bool isFirst)
    {
        try
        {
            if (CommandLineCheck.Misuse(parsed) is { } misuse) throw misuse.ToException();
            return await parsed.InvokeAsync(
                new InvocationConfiguration { EnableDefaultExceptionHandler = false, ProcessTerminationTimeout = null },
                cancel.Token);
        }
        catch (OperationCanceledException) when (cancel.IsCancellationRequested)
        {
            return Show(parsed, new Problem(
                ProblemCode.Interrupted, "stopped", "you interrupted the command",
                "nothing is half done; run it again when you like"));
        }
        catch (ElevatedRunEndedException raised)
        {
            return raised.ExitCode;
        }
        catch (Exception fault) when (IoProblems.IsExpected(fault))
        {
            var damage = CatalogueCache.DiscardDamaged(fault);
            if (damage is null || !isFirst || OutputStream.HasWritten
                || parsed.Tokens.Any(token => InputFile.IsReadOnce(token.Value)))
                return Show(parsed, damage ?? IoProblems.ToProblem(fault, "the command cannot be carried out"));

            // Nothing has been shown, asked or changed yet, and all that was read can be read again: the command starts again,
            // and fetches what it needs.
            using (var output = Call.OutputOf(parsed)) output.Notice($"{damage.What}: {damage.Why}");
        }
        catch (OutOfMemoryException)
        {
            return Show(parsed, NotEnoughMemory);
        }
        catch (Exception mistake)
        {
            return ApologyView.Show(mistake);
        }

        return await RunAsync(parsed, cancel, isFirst: false);
    }

    private static Problem NotEnoughMemory { get; } = new(
        ProblemCode.StateNeedsAttention, "there is not enough memory", "this process may not have more of it",
        "close other programs, or lift the limit (ulimit -v, or of a container); then run the command again");

    /// <summary>A thread that cannot be started ends the process from anywhere: with a sentence all the same.</summary>
    private static void EndWithoutMemory(object sender, UnhandledExceptionEventArgs unhandled)
    {
        if (unhandled.ExceptionObject is not OutOfMemoryException) return;
        Console.Error.WriteLine(
            $"acrate: {NotEnoughMemory.What}\n  why: {NotEnoughMemory.Why}\n  next: {NotEnoughMemory.Remedy}");
        ProcessSetup.EndNow(ExitCodes.ForProblem(NotEnoughMemory.Code));
    }

    private static int Show(ParseResult parsed, Problem problem)
    {
        try
        {
            using var output = Call.OutputOf(parsed);
            ErrorView.Show(output, problem);
        }
        catch (IOException)
        {
            // Output cannot be written. Where that was the problem, standard error has the reason; otherwise the exit code says
            // that there was one.
        }

        return ExitCodes.ForProblem(problem.Code);
    }

    /// <summary>The first signal lets the current app be finished, the second does not.</summary>
    private static void Stop(PosixSignalContext signal, CancellationTokenSource cancel, CancellationTokenSource now)
    {
        signal.Cancel = true;
        if (cancel.IsCancellationRequested) now.Cancel();
        else cancel.Cancel();
    }
}
