using AmberCrate.Engine.Inspecting;
using AmberCrate.Tests;

namespace AmberCrate.Cli.Tests.Findings;

/// <summary>For each kind of finding, how a machine really gets into that state.</summary>
internal static class FindingStates
{
    private const string Shelf = "root/.local/share/amber-crate/shelf", Bin = "root/.local/bin";
    private const string Script = $"{Shelf}/cue-ledger/1.5.0+any/bin/cue-ledger";
    private const string Database = "root/.local/state/amber-crate/records.db";

    /// <summary>The states, each with what the user does beside the printed command.</summary>
    public static IReadOnlyDictionary<FindingKind, FindingState> All { get; } = new Dictionary<FindingKind, FindingState>
    {
        [FindingKind.ShelfMissing] = new(Shell($"rm {Shelf}/cue-ledger/1.5.0+any/README")),
        [FindingKind.ShelfChanged] = new(Shell($"sed -i s/Cue/Bue/ {Shelf}/cue-ledger/1.5.0+any/README")) { Check = ["--deep"] },
        [FindingKind.PlaceMissing] = new(Shell($"rm {Bin}/cue-ledger")),
        [FindingKind.PlaceChanged] = new(Shell($"ln -sf /bin/true {Bin}/cue-ledger")) { ByHand = $"rm {Bin}/cue-ledger" },
        [FindingKind.Moved] = new(sandbox =>
        {
            sandbox.Prepare.Install("scrim-paint");
            Directory.Move(sandbox["root"], sandbox["moved"]);
            sandbox.Root = "moved";
        }),
        [FindingKind.CannotStart] = new(Shell($"sed -i '1s|/bin/sh|/bin/zz|' {Script}"))
        {
            ByHand = $"sed -i '1s|/bin/zz|/bin/sh|' {Script}",
        },
        [FindingKind.Shadowed] = new(sandbox =>
        {
            AtHome(sandbox);
            Run(sandbox, "mkdir programs && cp /bin/true programs/cue-ledger");
        })
        { ByHand = "rm programs/cue-ledger" },
        [FindingKind.NotOnPath] = new(sandbox =>
        {
            AtHome(sandbox);
            sandbox.Variables["PATH"] = "/usr/bin:/bin";
        })
        { Exported = true },
        [FindingKind.Unfinished] = new(sandbox => Change(
            sandbox, "INSERT INTO intentions SELECT id, NULL, '2026-01-01T00:00:00.000Z' FROM apps WHERE id = 'cue-ledger'")),
        [FindingKind.RunLeft] = new(sandbox =>
        {
            Run(sandbox, "mv site/files/gantry-plot-2.1.0.tar.gz kept");
            sandbox.Run("install", "gantry-plot", "--yes").ExitCode.ShouldNotBe(0);
            Run(sandbox, "mv kept site/files/gantry-plot-2.1.0.tar.gz");
        }),
        [FindingKind.RecordsOlder] = new(sandbox =>
        {
            Run(sandbox, $"cp {Database} older");
            sandbox.Prepare.Install("gantry-plot");
            Run(sandbox, $"rm -f {Database}-wal {Database}-shm; cp older {Database}");
        }),
        [FindingKind.PinLapsed] = new(sandbox =>
        {
            sandbox.Run("pin", "cue-ledger@1.x", "--until", $"{DateTime.UtcNow.AddDays(1):yyyy-MM-dd}").ShouldEnd(0);
            Change(sandbox, $"UPDATE pins SET pin = replace(pin, '{DateTime.UtcNow.AddDays(1):yyyy-MM-dd}', '2026-01-01')");
        }),
        [FindingKind.NotNeeded] = new(sandbox =>
        {
            sandbox.Prepare.Install("trapdoor-carry");
            sandbox.Run("uninstall", "trapdoor-carry", "--yes").ShouldEnd(0);
        }),
        [FindingKind.NeedMissing] = new(sandbox =>
        {
            sandbox.Prepare.Install("trapdoor-carry");
            Run(sandbox, $"rm -r {Shelf}/batten-runtime root/.local/share/amber-crate/front/batten-runtime");
            Change(sandbox, "DELETE FROM apps WHERE id = 'batten-runtime'");
        }),
        [FindingKind.CatalogueUnreachable] = new(sandbox =>
        {
            Run(sandbox, "mv site away");
            sandbox.Run("catalogue", "refresh").ExitCode.ShouldBe(6);
            Run(sandbox, "mv away site");
        }),
        [FindingKind.CatalogueStale] = new(sandbox => sandbox.MakeCatalogueDataOld(3)) { Check = ["--offline"] },
        [FindingKind.CatalogueUnsigned] = new(sandbox =>
        {
            sandbox.Run("catalogue", "build", "guild", "open").ShouldEnd(0);
            sandbox.Run("catalogue", "add", "open", "open", "--unsigned").ShouldEnd(0);
        }),
        [FindingKind.CatalogueExpired] = new(sandbox => InFuture(sandbox, () =>
            sandbox.Run("catalogue", "refresh", "guild").ExitCode.ShouldBe(5))),
        [FindingKind.CatalogueNotVerified] = new(sandbox =>
        {
            Run(sandbox, "cp site/timestamp.json kept; sed -i 's/\"sig\": *\"../\"sig\":\"00/' site/timestamp.json");
            sandbox.Run("catalogue", "refresh", "guild").ExitCode.ShouldBe(5);
            Run(sandbox, "cp kept site/timestamp.json");
        }),
        [FindingKind.LowRoom] = new(sandbox =>
        {
            // The records are on a small file system then, in a name space of each command.
            sandbox.SystemPrograms["no-such-program"] = null;
            sandbox.Before = "/usr/bin/rm -rf kept; /usr/bin/cp -r root/.local/state kept; "
                + "/usr/bin/mount -t tmpfs -o size=50m small root/.local/state; /usr/bin/cp -r kept/. root/.local/state/";
        })
        { Stays = true },
        [FindingKind.Permissions] = new(Shell($"chmod o+w {Bin}")),
        [FindingKind.Leftovers] = new(Shell($"mkdir {Shelf}/gantry-plot && echo half > {Shelf}/gantry-plot/file")),
        [FindingKind.Withdrawn] = new(sandbox =>
        {
            sandbox.Prepare.Install("scrim-paint");
            Publish(sandbox, "sed -i '0,/version = \"4.2.1\"/s//version = \"4.2.1\"\\nwithdrawn = \"it loses work\"/' "
                + "guild/scrim-paint.appcard.toml");
        }),
        [FindingKind.SecurityHeldBack] = new(sandbox =>
        {
            sandbox.Prepare.Install("scrim-paint@4.1.2");
            Publish(sandbox, "sed -i '0,/version = \"4.2.1\"/s//version = \"4.2.1\"\\nurgency = \"critical\"/' "
                + "guild/scrim-paint.appcard.toml");
        }),
        [FindingKind.NewerAcrate] = new(sandbox => Publish(
            sandbox, "sed 's/scrim-paint\\b/acrate/; s/Scrim Paint/Acrate/; s/version = \"4/version = \"400/; "
                + "s|files/acrate|files/scrim-paint|; /^\\[\\[place/,/^$/d' guild/scrim-paint.appcard.toml "
                + "> guild/acrate.appcard.toml"))
        { Stays = true },
        [FindingKind.RecordUnreadable] = new(sandbox => Change(
            sandbox, "UPDATE apps SET record = '{}' WHERE id = 'cue-ledger'")),
    };

    /// <summary>Runs a line of shell in the sandbox.</summary>
    public static void Run(Sandbox sandbox, string line)
    {
        using var process = System.Diagnostics.Process.Start(new System.Diagnostics.ProcessStartInfo(
            "/bin/sh", ["-ec", line])
        { WorkingDirectory = sandbox.Folder, UseShellExecute = false })!;
        process.EndInTime();
        process.ExitCode.ShouldBe(0, line);
    }

    private static Action<Sandbox> Shell(string line) => sandbox => Run(sandbox, line);

    private static void Publish(Sandbox sandbox, string change)
    {
        Run(sandbox, change);
        sandbox.Run("catalogue", "build", "guild", "site", "--with-artifacts", "--keys", "keys").ShouldEnd(0);
        sandbox.Prepare.Refresh();
    }

    private static void Change(Sandbox sandbox, string statement)
    {
        using var records = Engine.Storage.Database.Open(sandbox[Database.Split('/')]);
        records.Run(statement).ShouldBeGreaterThan(0);
    }

    /// <summary>The machine's own home instead of a root that is named: only there does PATH matter.</summary>
    private static void AtHome(Sandbox sandbox)
    {
        Run(sandbox, "mkdir -p home && cp -r root/. home/");
        sandbox.Variables["ACRATE_ROOT"] = "";
        sandbox.Variables["PATH"] = $"{sandbox["programs"]}:{sandbox["home", ".local", "bin"]}:/usr/bin:/bin";
    }

    private static void InFuture(Sandbox sandbox, Action act)
    {
        if (Approved.Telling.FakeTime is not { } library) Assert.Skip("libfaketime is missing: apt-get install faketime");
        else
        {
            (sandbox.Variables["LD_PRELOAD"], sandbox.Variables["FAKETIME"]) = (library, "+400d");
            (sandbox.Variables["FAKETIME_DONT_FAKE_MONOTONIC"], sandbox.Variables["FAKETIME_ONLY_CMDS"]) = ("1", "acrate");
            act();
            foreach (var name in new[] { "LD_PRELOAD", "FAKETIME" }) sandbox.Variables[name] = "";
        }
    }
}
