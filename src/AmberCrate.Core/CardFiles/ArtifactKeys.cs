using AmberCrate.Core.Cards;
using AmberCrate.Core.Formats;
using AmberCrate.Core.Values;
using static AmberCrate.Core.CardFiles.CardFormats;

namespace AmberCrate.Core.CardFiles;

/// <summary>The keys of an artifact.</summary>
internal static class ArtifactKeys
{
    /// <summary>The keys of an artifact.</summary>
    public static readonly KeyTable<Artifact> Table = new(values => new Artifact
    {
        Platform = Platform!.In(values), Location = Location!.In(values), Mirrors = Mirrors!.In(values),
        Format = Format!.In(values),
        Sha256 = Sha256!.In(values), DownloadSize = DownloadSize!.In(values), InstalledSize = InstalledSize!.In(values),
        StripFolders = (int)StripFolders!.In(values), FileName = FileName!.In(values), Installer = Installer!.In(values),
    });

    /// <summary>No file is larger: a pebibyte.</summary>
    private const long MostBytes = 1L << 50;

    private static readonly Key<Artifact, Platform> Platform = Table.Required(
        "platform",
        new ParsedFormat<Platform>(
            Values.Platform.TryParse, Values.Platform.Expected, platform => platform.ToString(),
            [.. new[] { "x86_64-linux-gnu", "aarch64-linux-gnu", "any-linux-any" }.Select(Values.Platform.Parse)]),
        artifact => artifact.Platform,
        "an AppStream platform triplet `architecture-kernel-environment`; a part may be `any`. Architectures: "
            + $"{Values.ProcessorArchitecture.Names}. The most specific one that fits the machine is used");

    private static readonly Key<Artifact, ArtifactLocation> Location = Table.Required(
        "location",
        new ParsedFormat<ArtifactLocation>(ArtifactLocation.TryParse, ArtifactLocation.Expected, location => location.Text),
        artifact => artifact.Location,
        "a path relative to the catalogue that stays inside it, or an http:, https: or file: address without user or password");

    private static readonly Key<Artifact, IReadOnlyList<ArtifactLocation>> Mirrors = Table.Optional(
        "mirrors",
        new ParsedListFormat<ArtifactLocation>(
            ArtifactLocation.TryParse, ArtifactLocation.Expected, location => location.Text, Text, most: 20),
        [],
        artifact => artifact.Mirrors,
        "where else the same file lies, at most 20, tried in this order when the location fails. Written like `location`");

    private static readonly Key<Artifact, ArtifactFormat> Format = Table.Required(
        "format", new ChoiceFormat<ArtifactFormat>(CardWords.Formats), artifact => artifact.Format, "how it is packed");

    private static readonly Key<Artifact, Sha256Digest> Sha256 = Table.Required(
        "sha256", new ParsedFormat<Sha256Digest>(Sha256Digest.TryParse, Sha256Digest.Expected, digest => digest.Hex),
        artifact => artifact.Sha256, "the digest of the file, 64 lower-case hexadecimal digits");

    private static readonly Key<Artifact, long> DownloadSize = Table.Required(
        "download_size", new NumberFormat(1, MostBytes), artifact => artifact.DownloadSize, "the size of the file in bytes");

    private static readonly Key<Artifact, long?> InstalledSize = Table.Optional(
        "installed_size", new NumberFormat(1, MostBytes), artifact => artifact.InstalledSize,
        "the size of all files once unpacked, in bytes");

    private static readonly Key<Artifact, long> StripFolders = Table.Optional(
        "strip", new NumberFormat(0, 20), 0, artifact => artifact.StripFolders,
        "how many leading folders of the archive are left out, 0 to 20");

    private static readonly Key<Artifact, FileName?> FileName = Table.Optional(
        "filename", FileNames, artifact => artifact.FileName,
        "only for a single file (`executable`, `gz`, `zst`, `xz`, `bz2`, `appimage`, `file`): its name in the shelf entry; "
        + "otherwise the last part of the location, without the ending of what compresses it");

    private static readonly Key<Artifact, InstallerRules?> Installer = Table.Optional(
        "installer", One(InstallerKeys.Table), artifact => artifact.Installer,
        "only for `installer`, and required there: how it is run (see below)");

    /// <summary>The keys of an installer.</summary>
    private static class InstallerKeys
    {
        public static readonly KeyTable<InstallerRules> Table = new(values => new InstallerRules
        {
            Arguments = Arguments!.In(values), SuccessCodes = SuccessCodes!.In(values), RestartCodes = RestartCodes!.In(values),
            Seconds = (int)Seconds!.In(values), AttendedArguments = AttendedArguments!.In(values),
        });

        private const int MostSeconds = 7200;

        private static readonly ValueFormat<IReadOnlyList<int>> ExitCodes = new NumberListFormat(0, 255);

        private static readonly Key<InstallerRules, IReadOnlyList<string>> Arguments = Table.Optional(
            "arguments",
            StringsThat(text => !text.Contains('\0', StringComparison.Ordinal), "strings without a zero character", Text),
            [],
            rules => rules.Arguments,
            "what it is started with, so that it asks nothing. `{folder}` is the folder that it must fill");

        private static readonly Key<InstallerRules, IReadOnlyList<string>?> AttendedArguments = Table.Optional(
            "attended_arguments",
            StringsThat(text => !text.Contains('\0', StringComparison.Ordinal), "strings without a zero character", Text),
            rules => rules.AttendedArguments,
            "what it is started with by `install --attended`, where a user answers it on the terminal");

        private static readonly Key<InstallerRules, IReadOnlyList<int>> SuccessCodes = Table.Optional(
            "success_codes", ExitCodes, [0], rules => rules.SuccessCodes,
            "exit codes that mean success; default: 0");

        private static readonly Key<InstallerRules, IReadOnlyList<int>> RestartCodes = Table.Optional(
            "restart_codes", ExitCodes, [], rules => rules.RestartCodes,
            "exit codes that mean success after a restart of the machine");

        private static readonly Key<InstallerRules, long> Seconds = Table.Optional(
            "seconds", new NumberFormat(1, MostSeconds), InstallerRules.UsualSeconds, rules => rules.Seconds,
            $"how long it may take, 1 to {MostSeconds}; default: {InstallerRules.UsualSeconds}");
    }
}
