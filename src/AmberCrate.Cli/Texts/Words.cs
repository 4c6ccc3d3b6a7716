using System.Globalization;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Due;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Placements;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Listing;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Cli.Texts;

/// <summary>The words that people read for the values of the core, in one place.</summary>
internal static class Words
{
    public static string WordFor(AppKind kind) => kind switch
    {
        AppKind.DesktopApp => "desktop app",
        AppKind.ConsoleApp => "console app",
        AppKind.Runtime => "runtime",
        AppKind.Font => "font",
    };

    /// <summary>What the launcher of an app's commands does, in words; null where there is none.</summary>
    public static string? Launcher(Placement place)
    {
        if (!place.HasLauncher) return null;
        var parts = new List<string>();
        if (place.Folders.Count > 0)
            parts.Add($"sets {string.Join(", ", place.Folders.Select(one => OwnFolderRow.Find(one.Kind).Variable))}");
        if (place.Mapped.Count > 0)
            parts.Add($"lays {string.Join(", ", place.Mapped.Select(path => $"/{path}"))} over the system's, by bwrap");
        if (place.Borrows.Count > 0) parts.Add($"lets it find the files of {string.Join(", ", place.Borrows)}");
        return string.Join(", and ", parts);
    }

    /// <summary>What is done with an app; what only is remembered is an app that stays as it is.</summary>
    public static string WordFor(PlanAction action) =>
        ActionWords.Actions.WordOf(action == PlanAction.Remember ? PlanAction.Keep : action);

    public static string WordFor(SignIn? signIn) => signIn is not { } stated ? NotSupplied : stated switch
    {
        SignIn.None => "not needed",
        SignIn.Optional => "optional",
        SignIn.Required => "needed",
    };

    public static string WordFor(Attention attention) => attention switch
    {
        Attention.Restart => "restart the machine to finish",
        Attention.Dialog => "shows a dialog at first start",
        Attention.Licence => "terms of a licence must be accepted",
    };

    /// <summary>Why an installed app is not simply current or due, and what else there is to know of it.</summary>
    /// <param name="entry">The app.</param>
    /// <param name="today">The day.</param>
    public static string Remark(DueEntry entry, DateOnly today) => string.Join("; ", ((string[])
    [
        entry.HeldFix is { } held ? $"security fix {held.Version} is held back"
            : entry.IsSecurity ? "security fix" : "",
        entry.Withdrawn is { } why ? $"{entry.Version} is withdrawn: {why}" : "",
        Standing(entry),
        .. entry.CardChanges.Select(change => change.Words),
        entry.Pin is { } pin && pin.IsLapsed(today) ? $"{pin.Words}, which is over" : "",
    ]).Where(part => part.Length > 0));

    /// <summary>How many security fixes are held back, behind other counts; empty for none.</summary>
    public static string HeldFixes(IEnumerable<ScopedEntry> entries) => entries.Count(entry => entry.IsFixHeldBack) is var held
        && held > 0 ? $", {Count(held, "security fix", "security fixes")} held back" : "";

    private static string Standing(DueEntry entry) => entry.State switch
    {
        DueState.HeldBack => entry.HeldWords,
        DueState.Changed => "changed by the catalogue since it was installed",
        DueState.Pinned => entry.Pin!.Words,
        DueState.OtherPlatform => "not offered for this machine",
        DueState.Paused => "its catalogue is paused",
        DueState.NotOffered => "not offered any more",
        DueState.NotFetched => "its catalogue has never been refreshed",
        DueState.Dropped => "its catalogue is not here any more",
        DueState.Due when entry is { IsNewerPinned: true, Newer: { } held } =>
            $"{entry.Pin!.Words}; {held.Release.Version} is newer",
        DueState.Due when entry.Newer is { } newer => $"follows @{entry.App.Follows}; {newer.Release.Version} is newer",
        _ when entry.App.Follows is { } follows => $"follows @{follows}",
        DueState.Current or DueState.Due or DueState.Follows or DueState.UpdatesItself => "",
    };

    /// <summary>What a mark says to people, where the columns of a list do not.</summary>
    public static string WordFor(AppMark mark) => mark switch
    {
        AppMark.InUse => "in use",
        AppMark.Edited => "changed by hand",
        AppMark.Damaged => "damaged",
        AppMark.Dependency => "installed for another app",
        AppMark.NotNeeded => "no longer needed",
        AppMark.UpdatesItself => "updates itself",
        AppMark.Protected => "protected",
        AppMark.Outdated or AppMark.Security or AppMark.HeldBack or AppMark.Pinned or AppMark.PinLapsed
            or AppMark.Withdrawn or AppMark.Changed or AppMark.CataloguePaused or AppMark.NotOffered =>
                "",
    };

    /// <summary>The text where a card is silent.</summary>
    public const string NotSupplied = "not supplied";

    /// <summary>A number of things: "1 app", "2 apps".</summary>
    public static string Count(int number, string one, string? many = null) =>
        number.ToString(CultureInfo.InvariantCulture) + " " + (number == 1 ? one : many ?? one + "s");

    /// <summary>A size in binary units.</summary>
    public static string Size(long bytes) => ByteSize.Words(bytes);

    /// <summary>How long something took.</summary>
    public static string Duration(TimeSpan time) =>
        time.TotalSeconds < 60 ? $"{(int)time.TotalSeconds} s" : time.TotalMinutes < 60
        ? $"{(int)time.TotalMinutes} min {time.Seconds} s"
        : $"{(int)time.TotalHours} h {time.Minutes} min";

    /// <summary>How old the data of catalogues are.</summary>
    public static string Age(DataFreshness freshness)
    {
        if (freshness.States.Count > 0)
            return Age(freshness.States, freshness.Now)
                + string.Concat(freshness.States.Where(state => state.IsBehind).Select(state =>
                    $" · {state.Name} could not be refreshed {DataAge.Ago(state.Tried, freshness.Now)}"))
                + string.Concat(freshness.NotSigned.Select(name => $" · {name} is not signed"))
                + string.Concat(freshness.EndingSoon.Select(one => one.Ends <= freshness.Now
                    ? $" · the signatures of {one.Name} have expired"
                    : $" · the signatures of {one.Name} expire {PlainText.Time(one.Ends)}"))
                + string.Concat(freshness.Frozen.Select(one => $" · {one.Name}: {Frozen(one.Apps)}"));
        return freshness.Known == 0 ? "no catalogue has been added"
            : freshness.Paused.Count == freshness.Known ? "every catalogue is paused"
            : "no catalogue has been refreshed yet";
    }

    /// <summary>That apps of another maintainer are not up to date, and why.</summary>
    public static string Frozen(FrozenApps apps) => $"the apps of {apps.Maintainer} are not up to date ({apps.Why})";

    /// <summary>The name of a catalogue, with whom it is for where that is not what was asked about.</summary>
    public static string Catalogue(CatalogueName name, InstallScope scope, InstallScope asked) =>
        scope == asked ? name.Text : $"{name} {ScopeText.For(scope)}";

    /// <summary>How old the data of catalogues are, of one at least; each for itself where they differ.</summary>
    public static string Age(IReadOnlyCollection<CatalogueState> catalogues, DateTimeOffset now) => catalogues.Count switch
    {
        1 => "catalogue refreshed " + DataAge.Ago(catalogues.First().Refreshed, now),
        _ when catalogues.Select(catalogue => DataAge.Ago(catalogue.Refreshed, now)).Distinct().Count() == 1 =>
            "catalogues refreshed " + DataAge.Ago(catalogues.First().Refreshed, now),
        _ => "refreshed: " + string.Join(", ", catalogues.Select(
            one => $"{Catalogue(one.Name, one.Scope, catalogues.First().Scope)} {DataAge.Ago(one.Refreshed, now)}")),
    };
}
