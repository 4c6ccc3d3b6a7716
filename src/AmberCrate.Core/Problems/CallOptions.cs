namespace AmberCrate.Core.Problems;

/// <summary>
/// The options of a call that every command suggested in answer to it must carry too, so that it can be pasted as it stands.
/// </summary>
/// <param name="Root">The folder given with <c>--root</c>; null where none was.</param>
/// <param name="AllUsers">Whether the call was about the apps of all users of the machine.</param>
public sealed record CallOptions(string? Root = null, bool AllUsers = false)
{
    /// <summary>The option that means all users' apps.</summary>
    public const string AllUsersOption = "--all-users";

    /// <summary>The option that names the root.</summary>
    public const string RootOption = "--root";

    /// <summary>A call without any of these options.</summary>
    public static CallOptions None { get; } = new();

    /// <summary>The options as words of a command line.</summary>
    public IEnumerable<string> Words
    {
        get
        {
            if (AllUsers) yield return AllUsersOption;
            if (Root is null) yield break;
            yield return RootOption;
            yield return ShellWord.Quote(Root);
        }
    }
}
