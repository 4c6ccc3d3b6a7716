using static AmberCrate.Cli.Tables.Column;

namespace AmberCrate.Cli.Tables;

/// <summary>The columns of every table that the program prints.</summary>
internal static class Shapes
{
    /// <summary>What is installed.</summary>
    public static TableShape Installed { get; } = new(
        Key("app"), Fact("version"), Fact("newer"), Fact("follows", 3), Fact("for", 2), Fact("catalogue", 4), Aside("kind", 8),
        Number("size", 1), Number("shared", 5), Aside("name", 7), Aside("installed", 9) with { Kind = ColumnKind.Number },
        Text("place", 6), Text("remark"));

    /// <summary>What is due.</summary>
    public static TableShape Due { get; } = new(
        Key("app"), Fact("installed"), Fact("available"), Aside("released", 8) with { Kind = ColumnKind.Number },
        Number("behind", 2), Number("download", 3), Aside("catalogue", 9), Text("remark", 5));

    /// <summary>What a plan changes.</summary>
    public static TableShape Plan { get; } = new(
        Fact("plan") with { IsSaidOnce = true }, Key("app"), Fact("from"), Fact("to"), Fact("catalogue", 3),
        Number("download", 2), Aside("on disk", 7) with { Kind = ColumnKind.Number }, Text("remark", 6));

    /// <summary>What happened when programs were started.</summary>
    public static TableShape Trials { get; } = new(
        Key("app"), Fact("version", 3), Fact("started", 2), Fact("outcome"), Text("what happened"));

    /// <summary>What others have installed.</summary>
    public static TableShape Observed { get; } = new(
        Key("name"), Fact("version"), Fact("what", 5), Text("catalogue", 2), Aside("title", 7), Text("remark", 6));

    /// <summary>The latest runs.</summary>
    public static TableShape Runs { get; } = new(
        Key("run") with { Kind = ColumnKind.Number }, Fact("when"), Fact("who", 6), Text("outcome", 2), Text("command", 4));

    /// <summary>One run.</summary>
    public static TableShape Run { get; } = new(
        Fact("outcome") with { IsSaidOnce = true }, Key("app"), Fact("plan", 4), Fact("from", 3), Fact("to", 2),
        Text("reason", 5));

    /// <summary>What a search has found.</summary>
    public static TableShape Found { get; } = new(
        Key("app"), Fact("version"), Aside("released", 6) with { Kind = ColumnKind.Number }, Number("machines", 5),
        Fact("installed", 2), Fact("catalogue", 4), Aside("kind", 8), Fact("found by", 3), Text("what it is"));

    /// <summary>The newest release of each line of an app.</summary>
    public static TableShape Lines { get; } = new(
        Key("line"), Fact("newest"), Fact("date", 3), Fact("on this machine", 2), Text("what is new"));

    /// <summary>Every release of an app.</summary>
    public static TableShape Releases { get; } = new(
        Key("release"), Fact("line", 4), Fact("date", 3), Fact("on this machine", 2), Text("what is new"));

    /// <summary>The same app in several catalogues.</summary>
    public static TableShape Offers { get; } = new(
        Key("catalogue"), Fact("version"), Fact("sha256", 4), Fact("review", 3), Text("developer", 2), Text("differs in"));

    /// <summary>The catalogues.</summary>
    public static TableShape Catalogues { get; } = new(
        Key("catalogue"), Number("apps", 2), Number("refreshed", 3), Fact("trust"), Fact("state", 1), Text("location", 4),
        Aside("title", 6));

    /// <summary>Who signs a catalogue.</summary>
    public static TableShape Roles { get; } = new(
        Key("role"), Fact("version", 2), Fact("until"), Fact("signed by", 3), Text("key ids", 4));

    /// <summary>The keys in a folder.</summary>
    public static TableShape Keys { get; } = new(Key("key"), Fact("type", 3), Text("id", 2));

    /// <summary>What a bundle lists.</summary>
    public static TableShape Bundle { get; } = new(Key("app"), Fact("version"), Text("from", 4), Text("remark", 3));

    /// <summary>The bundles that catalogues carry.</summary>
    public static TableShape Bundles { get; } = new(Key("bundle"), Number("apps", 2), Text("title"));

    /// <summary>What is amiss in a bundle.</summary>
    public static TableShape BundleFindings { get; } = new(
        Fact("finding") with { IsSaidOnce = true }, Key("app"), Text("what", 2), Text("where", 3));

    /// <summary>What is in a kit.</summary>
    public static TableShape Kit { get; } = new(
        Key("app"), Fact("version"), Fact("catalogue", 3), Number("size", 2), Text("remark"));

    /// <summary>What takes up disk space.</summary>
    public static TableShape Room { get; } = new(Fact("what"), Number("room"), Key("app"), Text("stays", 2), Text("where", 3));

    /// <summary>How a machine differs from a bundle.</summary>
    public static TableShape Differences { get; } = new(
        Fact("difference") with { IsSaidOnce = true }, Key("app"), Fact("wanted", 2), Fact("there", 1), Text("remark", 3));

    /// <summary>How many machines differ from a bundle.</summary>
    public static TableShape Machines { get; } = new(
        Key("machine"), Number("apps", 1), Fact("exported", 4), Text("differences", 2), Text("such as", 3));

    /// <summary>The pins.</summary>
    public static TableShape Pins { get; } = new(
        Key("app"), Fact("pinned to"), Fact("installed", 3), Fact("holds back", 2), Fact("until", 1), Text("reason", 4));

    /// <summary>The settings.</summary>
    public static TableShape Settings { get; } = new(Key("setting"), Text("value", 2), Text("from", 4), Text("meaning", 5));

    /// <summary>What is on a timer.</summary>
    public static TableShape Timers { get; } = new(
        Key("task"), Fact("at"), Fact("next", 2), Fact("delay", 5), Fact("window", 4), Fact("last run", 3),
        Text("last outcome"));

    /// <summary>Apps side by side.</summary>
    /// <param name="apps">Their ids.</param>
    public static TableShape SideBySide(IEnumerable<string> apps) =>
        new([Key(""), .. apps.Select(app => Text(app))]) { IsSideBySide = true };

    /// <summary>A fact that a narrow terminal leaves out; --verbose and --json have it.</summary>
    private static Column Aside(string heading, int leaves) => Fact(heading, leaves) with { IsLeftOut = true };
}
