using AmberCrate.Core.Values;
using AmberCrate.Engine.Runs;

namespace AmberCrate.Engine.Sessions;

/// <summary>What every operation that changes apps takes in addition to the apps.</summary>
public sealed record RunOptions
{
    /// <summary>Whether only the plan is wanted.</summary>
    public bool IsDryRun { get; init; }

    /// <summary>Whether the user has agreed beforehand.</summary>
    public bool IsAgreed { get; init; }

    /// <summary>Whether the user picks what of the plan to carry out.</summary>
    public bool IsPicking { get; init; }

    /// <summary>What the user has agreed to that is refused otherwise.</summary>
    public RunConsent Consent { get; init; } = RunConsent.None;

    /// <summary>The names of catalogues that may take over the apps of another one of their name.</summary>
    public IReadOnlyList<string> TakesOver { get; init; } = [];

    /// <summary>Whether catalogues of a bundle need not be signed.</summary>
    public bool AllowsUnsigned { get; init; }

    /// <summary>Whether apps may become older although the user did not ask for that, if there is no other plan.</summary>
    public bool AllowsOlder { get; init; }

    /// <summary>
    /// The digest of the plan that has been shown already, and which alone is to be carried out; null where none has.
    /// </summary>
    public Sha256Digest? AsShown { get; init; }

    /// <summary>The ids of apps to leave out.</summary>
    public IReadOnlyList<string> Skipped { get; init; } = [];

    /// <summary>Those of <see cref="Skipped"/> that were named among the wishes and left out there already.</summary>
    public IReadOnlyList<string> LeftOut { get; init; } = [];

    /// <summary>The digests that the user states for files, by id.</summary>
    public IReadOnlyDictionary<string, Sha256Digest> StatedDigests { get; init; } = new Dictionary<string, Sha256Digest>();

    /// <summary>What the user gives to installers, by id.</summary>
    public IReadOnlyDictionary<string, IReadOnlyList<string>> InstallerArguments { get; init; } =
        new Dictionary<string, IReadOnlyList<string>>();
}
