using AmberCrate.Core.Values;

namespace AmberCrate.Core.Cards;

/// <summary>
/// The words by which cards and catalogues write the values of enumerations, in one place for every reader and writer.
/// </summary>
public static class CardWords
{
    /// <summary>AppStream's component types.</summary>
    public static WordTable<AppKind> Kinds { get; } = new(
        (AppKind.DesktopApp, "desktop-application"),
        (AppKind.ConsoleApp, "console-application"),
        (AppKind.Runtime, "runtime"),
        (AppKind.Font, "font"));

    /// <summary>Forms of artifacts, by the usual endings of such files.</summary>
    public static WordTable<ArtifactForm> Forms { get; } = new(
        (ArtifactForm.TarGz, "tar.gz"),
        (ArtifactForm.TarZst, "tar.zst"),
        (ArtifactForm.TarXz, "tar.xz"),
        (ArtifactForm.TarBz2, "tar.bz2"),
        (ArtifactForm.Zip, "zip"),
        (ArtifactForm.SevenZip, "7z"),
        (ArtifactForm.Deb, "deb"),
        (ArtifactForm.AppImage, "appimage"),
        (ArtifactForm.Installer, "installer"),
        (ArtifactForm.Executable, "executable"),
        (ArtifactForm.File, "file"));

    /// <summary>Shells for which completions can be placed.</summary>
    public static WordTable<CompletionShell> Shells { get; } = new(
        (CompletionShell.Bash, "bash"),
        (CompletionShell.Zsh, "zsh"),
        (CompletionShell.Fish, "fish"));

    /// <summary>Sign-in needs.</summary>
    public static WordTable<SignIn> SignIns { get; } = new(
        (SignIn.None, "none"),
        (SignIn.Optional, "optional"),
        (SignIn.Required, "required"));

    /// <summary>What a person will have to see to.</summary>
    public static WordTable<Attention> Attentions { get; } = new(
        (Attention.Restart, "restart"),
        (Attention.Dialog, "dialog"),
        (Attention.Licence, "licence"));

    /// <summary>Review states.</summary>
    public static WordTable<ReviewState> ReviewStates { get; } = new(
        (ReviewState.Unreviewed, "unreviewed"),
        (ReviewState.Pending, "pending"),
        (ReviewState.Reviewed, "reviewed"));
}
