namespace AmberCrate.Core.Values;

/// <summary>
/// Foreign text is not what it should be. The framework's own exception of this kind tells of a mistake in this program.
/// </summary>
/// <param name="message">What was expected, and what was found.</param>
/// <param name="cause">What has shown it; null for nothing.</param>
public sealed class MalformedException(string message, Exception? cause = null) : FormatException(message, cause);
