using Spectre.Console;

namespace AmberCrate.Cli.Terminal;

/// <summary>Asks the user on the terminal for a secret, and does not show what is typed.</summary>
internal static class SecretPrompt
{
    /// <summary>Asks. What is typed is not shown, not even how much it is.</summary>
    /// <param name="output">Where to.</param>
    /// <param name="question">The question.</param>
    /// <returns>What was typed; empty if that was nothing.</returns>
    public static string Ask(Output output, string question)
    {
        output.Flush();
        using var keys = TerminalKeys.Open(isLeftByEscape: true);
        try
        {
            return new TextPrompt<string>(Markup.Escape(question) + ":") { AllowEmpty = true, IsSecret = true, Mask = null }
                .Show(output.Moving);
        }
        catch (NoAnswerException)
        {
            output.Moving.WriteLine();
            return "";
        }
    }
}
