using System.CommandLine;
using System.Runtime.InteropServices;
using AmberCrate.Cli.Commands;
using AmberCrate.Cli.Views;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Running;

namespace AmberCrate.Cli;

/// <summary>The entry of <c>acrate</c>: the one place that turns problems into words and exit codes.</summary>
internal static class Program
{
    public static async Task<int> Main(string[] arguments)
    {
        using var cancel = new CancellationTokenSource();
        using var now = new CancellationTokenSource();
        using var interrupt = PosixSignalRegistration.Create(PosixSignal.SIGINT, signal => Stop(signal, cancel, now));
        using var terminate = PosixSignalRegistration.Create(PosixSignal.SIGTERM, signal => Stop(signal, cancel, now));
        var parsed = AcrateCommand.Create(now.Token).Parse(arguments, new ParserConfiguration { ResponseFileTokenReplacer = null });
        using var output = Output.Of(parsed);
        try
        {
            if (AcrateCommand.Misuse(parsed) is { } misuse) throw misuse.ToException();
            return await parsed.InvokeAsync(new InvocationConfiguration { EnableDefaultExceptionHandler = false, ProcessTerminationTimeout = null }, cancel.Token);
        }
        catch (OperationCanceledException) when (cancel.IsCancellationRequested)
        {
            return ErrorView.Show(output, new Problem(ProblemCode.Interrupted, "stopped", "you interrupted the command", "nothing is half done; run it again when you like"));
        }
        catch (Exception fault) when (IoProblems.IsExpected(fault))
        {
            return ErrorView.Show(output, CommandText.In(CommonOptions.ScopeOf(parsed), IoProblems.Of(fault, "the command cannot be carried out")));
        }
    }

    /// <summary>The first signal lets the app in hand be finished, the second does not.</summary>
    private static void Stop(PosixSignalContext signal, CancellationTokenSource cancel, CancellationTokenSource now)
    {
        signal.Cancel = true;
        if (cancel.IsCancellationRequested) now.Cancel();
        else cancel.Cancel();
    }
}
