namespace AmberCrate.Cli.Terminal;

/// <summary>A question was left with Escape or Ctrl-D, or the terminal is gone: the answer is no.</summary>
internal sealed class NoAnswerException : Exception;
