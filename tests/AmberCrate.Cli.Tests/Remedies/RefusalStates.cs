namespace AmberCrate.Cli.Tests.Remedies;

/// <summary>The refusals that name a command as the way on.</summary>
internal static class RefusalStates
{
    public static IReadOnlyList<RefusalState> All { get; } =
    [
        new("install cue-ledger", 3, "catalogue add NAME LOCATION")
        {
            Before = ["catalogue drop house", "catalogue drop guild"],
            Fill = [("NAME", "guild"), ("LOCATION", "guild")], Again = 0,
        },
        new("install gantry-plot", 3, "catalogue resume house")
        {
            Before = ["catalogue pause house", "catalogue pause guild"],
        },
        new("about qqqqqqqq", 3, "search qqqqqqqq") { NextEnds = 3 },
        new("search tool --catalogue nowhere", 3, "catalogue list"),
        new("uninstall no-such-app", 3, "list"),
        new("list no-such-app", 3, "list"),
        new("list --observed no-such-app", 3, "list --observed"),
        new("adopt no-such-app", 3, "list --observed"),
        new("adopt gantry-plot", 3, "install gantry-plot"),
        new("uninstall scrim-paint@4.1.x", 2, "install scrim-paint@4.1.x") { Before = ["install scrim-paint"] },
        new("install cue-ledger@1.4.0", 4, "pin cue-ledger --lift")
        {
            Before = ["install cue-ledger", "pin cue-ledger@1.5.x"], Again = 0,
        },
        new("pin cue-ledger", 3, "pin cue-ledger@VERSION")
        {
            Fill = [("VERSION", "1.5.0")],
        },
        new("undo 99", 3, "runs") { Before = ["install cue-ledger"] },
        new("compare --run 99", 3, "runs") { Before = ["install cue-ledger"] },
        new("runs --output saved.bundle.toml", 2, "runs --bundle RUN") { Before = ["install cue-ledger"], Fill = [("RUN", "1")] },
        new("catalogue add guild house", 4, "catalogue drop guild") { Again = 0 },
        new("catalogue build guild site --keys keys", 3, "catalogue keys new ~/keys") { Again = 0 },
        new("catalogue keys list keys", 3, "catalogue keys new keys") { Again = 0 },
        new("catalogue sign plain --keys keys", 3, "catalogue build CARDS-DIR ~/plain --keys FOLDER")
        {
            Before = ["catalogue keys new keys", "catalogue build guild plain"],
            Fill = [("CARDS-DIR", "guild"), ("FOLDER", "keys")],
        },
        new("install gantry-plot", 5, "catalogue refresh")
        {
            Make = sandbox => File.AppendAllText(
                Directory.GetFiles(sandbox["guild", "files"], "gantry-plot-2.1.0.*")[0], "changed"),
        },
        new("instal cue-ledger", 2, "--help"),
        new("compare", 2, "compare --help"),
        new("compare --before frame.bundle.toml", 2, "compare --help"),
        new("search", 2, "search --help"),
        new("equip", 2, "equip --help"),
        new("equip --before frame.bundle.toml", 2, "equip --help"),
        new("schedule set", 2, "schedule set --help"),
        new("completions", 2, "completions --help"),
        new("card release", 2, "card release --help"),
        new("install", 2, "install --help"),
    ];

    /// <summary>Commands that messages name and that are run elsewhere, or cannot be run here, each with the reason.</summary>
    public static IReadOnlyDictionary<string, string> Elsewhere { get; } = new Dictionary<string, string>(StringComparer.Ordinal)
    {
        ["acrate uninstall"] = "FindingTests and DecisionTests: a removal that is named because an app cannot be changed",
        ["acrate equip"] = "SignedKitTests: the kit is named by its path",
        ["acrate reclaim"] = "TroubleTests: a disk that is full",
        ["acrate catalogue keys rotate"] = "TrustTests: a key that others can read",
        ["acrate schedule set"] = "ScheduleTests of Engine: it takes systemd",
        ["acrate search --bundles"] = "BundleTests: an address of a catalogue's bundle",
        ["acrate retry"] = "LeftOverTests",
        ["acrate kit make"] = "SignedKitTests",
        ["acrate bundle check"] = "BundleTests",
        ["acrate catalogue sign"] = "SeveralMaintainersTests: a publication that waits for another key",
        ["acrate catalogue keys list"] = "SeveralMaintainersTests: a key that the root does not name",
    };
}
