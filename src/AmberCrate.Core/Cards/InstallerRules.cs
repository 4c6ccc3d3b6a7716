namespace AmberCrate.Core.Cards;

/// <summary>How a vendor's self-extracting installer is run without anybody to answer it.</summary>
public sealed record InstallerRules
{
    /// <summary>What stands in an argument for the folder into which it shall install.</summary>
    public const string FolderMark = "{folder}";

    /// <summary>How long an installer may take unless its card says otherwise, in seconds.</summary>
    public const int UsualSeconds = 600;

    /// <summary>What it is started with; <see cref="FolderMark"/> means the folder.</summary>
    public IReadOnlyList<string> Arguments { get; init; } = [];

    /// <summary>What it is started with where a user answers it; null where it cannot be answered.</summary>
    public IReadOnlyList<string>? AttendedArguments { get; init; }

    /// <summary>The exit codes that mean success.</summary>
    public IReadOnlyList<int> SuccessCodes { get; init; } = [0];

    /// <summary>The exit codes that mean success after a restart of the machine.</summary>
    public IReadOnlyList<int> RestartCodes { get; init; } = [];

    /// <summary>How long it may take, in seconds.</summary>
    public int Seconds { get; init; } = UsualSeconds;
}
