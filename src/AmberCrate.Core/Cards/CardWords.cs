namespace AmberCrate.Core.Cards;

/// <summary>The words by which cards and catalogues write the values of enumerations, in one place for every reader and writer.</summary>
public static class CardWords
{
    /// <summary>AppStream's component types.</summary>
    public static IReadOnlyList<(string Word, AppKind Value)> Kinds { get; } =
    [
        ("desktop-application", AppKind.DesktopApp),
        ("console-application", AppKind.ConsoleApp),
        ("runtime", AppKind.Runtime),
        ("font", AppKind.Font),
    ];

    /// <summary>Forms of artifacts, by the usual endings of such files.</summary>
    public static IReadOnlyList<(string Word, ArtifactForm Value)> Forms { get; } =
    [
        ("tar.gz", ArtifactForm.TarGz),
        ("tar.zst", ArtifactForm.TarZst),
        ("tar.xz", ArtifactForm.TarXz),
        ("tar.bz2", ArtifactForm.TarBz2),
        ("zip", ArtifactForm.Zip),
        ("7z", ArtifactForm.SevenZip),
        ("deb", ArtifactForm.Deb),
        ("appimage", ArtifactForm.AppImage),
        ("installer", ArtifactForm.Installer),
        ("executable", ArtifactForm.Executable),
        ("file", ArtifactForm.File),
    ];

    /// <summary>Shells for which completions can be placed.</summary>
    public static IReadOnlyList<(string Word, CompletionShell Value)> Shells { get; } =
    [
        ("bash", CompletionShell.Bash),
        ("zsh", CompletionShell.Zsh),
        ("fish", CompletionShell.Fish),
    ];

    /// <summary>Sign-in needs.</summary>
    public static IReadOnlyList<(string Word, SignIn Value)> SignIns { get; } =
    [
        ("none", SignIn.None),
        ("optional", SignIn.Optional),
        ("required", SignIn.Required),
    ];

    /// <summary>What a person will have to see to.</summary>
    public static IReadOnlyList<(string Word, Attention Value)> Attentions { get; } =
    [
        ("restart", Attention.Restart),
        ("dialog", Attention.Dialog),
        ("licence", Attention.Licence),
    ];

    /// <summary>Review states.</summary>
    public static IReadOnlyList<(string Word, ReviewState Value)> ReviewStates { get; } =
    [
        ("unreviewed", ReviewState.Unreviewed),
        ("pending", ReviewState.Pending),
        ("reviewed", ReviewState.Reviewed),
    ];

    /// <summary>The word for a value of one of these lists.</summary>
    public static string WordOf<T>(this IReadOnlyList<(string Word, T Value)> words, T value)
        where T : struct, Enum => words.First(pair => EqualityComparer<T>.Default.Equals(pair.Value, value)).Word;
}
