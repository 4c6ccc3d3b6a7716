namespace AmberCrate.Core.Values;

/// <summary>
/// Foreign text has another form than expected. The framework's own exception of this kind reports a mistake in this program.
/// </summary>
/// <param name="message">What was expected, and what was found.</param>
/// <param name="cause">What has shown it; null for nothing.</param>
public sealed class MalformedException(string message, Exception? cause = null) : FormatException(message, cause);
