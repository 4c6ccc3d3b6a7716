namespace AmberCrate.Core.Problems;

/// <summary>
/// A command of this program that a user can type next, as a value: the options of the call are put in when it is printed.
/// </summary>
public sealed record NextCommand
{
    private const string Program = "acrate";

    private readonly string _verb;
    private readonly IReadOnlyList<string> _arguments;
    private readonly bool _isAboutTheCall;
    private bool _isForAllUsers;

    private NextCommand(string verb, IReadOnlyList<string> arguments, bool isAboutTheCall) =>
        (_verb, _arguments, _isAboutTheCall) = (verb, arguments, isAboutTheCall);

    /// <summary>A command on the apps or catalogues that the call was about.</summary>
    /// <param name="verb">The command, such as <c>catalogue refresh</c>.</param>
    /// <param name="arguments">Its arguments, unquoted.</param>
    public static NextCommand Create(string verb, params ReadOnlySpan<string> arguments) =>
        new(verb, arguments.ToArray(), isAboutTheCall: true);

    /// <summary>The help of a command, which is the same for every root and all users.</summary>
    /// <param name="verb">The command; empty for the program itself.</param>
    public static NextCommand HelpOf(string verb) => new(verb, ["--help"], isAboutTheCall: false);

    /// <summary>The same for all users' apps, whatever the call was about.</summary>
    public NextCommand ForAllUsers() => this with { _isForAllUsers = true };

    /// <summary>The command as it is typed, with the options of a call.</summary>
    public string In(CallOptions options) => string.Join(' ', Words(options).Where(word => word.Length > 0));

    /// <summary>The command without any option of a call.</summary>
    public override string ToString() => In(CallOptions.None);

    /// <inheritdoc/>
    public bool Equals(NextCommand? other) => other is not null && other.ToString() == ToString();

    /// <inheritdoc/>
    public override int GetHashCode() => ToString().GetHashCode(StringComparison.Ordinal);

    private CallOptions OptionsOf(CallOptions call) =>
        !_isAboutTheCall ? CallOptions.None : _isForAllUsers ? call with { AllUsers = true } : call;

    private IEnumerable<string> Words(CallOptions options) =>
        [Program, _verb, .. OptionsOf(options).Words, .. _arguments.Select(ShellWord.Quote)];
}
