using System.Globalization;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Runs;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Operations;

namespace AmberCrate.Cli.Views;

/// <summary>The words that people read for the values of the core, in one place.</summary>
internal static class Words
{
    public static string Of(AppKind kind) => kind switch
    {
        AppKind.DesktopApp => "desktop app",
        AppKind.ConsoleApp => "console app",
        AppKind.Runtime => "runtime",
        _ => "font",
    };

    public static string Of(PlanAction action) => action switch
    {
        PlanAction.Install => "install",
        PlanAction.Upgrade => "upgrade",
        PlanAction.Downgrade => "downgrade",
        PlanAction.Remove => "uninstall",
        PlanAction.StayPinned => "pinned",
        PlanAction.Cannot => "cannot",
        _ => "keep",
    };

    public static string Of(Outcome outcome) => outcome switch
    {
        Outcome.NotOffered => "not-offered",
        Outcome.AppOpen => "app-open",
        _ => outcome.ToString().ToLowerInvariant(),
    };

    public static string Of(SignIn? signIn) => signIn switch
    {
        null => NotSupplied,
        SignIn.None => "not needed",
        SignIn.Optional => "optional",
        _ => "needed",
    };

    public static string Of(Attention attention) => attention switch
    {
        Attention.Restart => "the machine must be started again",
        Attention.Dialog => "it opens a window that wants an answer",
        _ => "terms of a licence must be accepted",
    };

    /// <summary>Whom a scope is for: "for you".</summary>
    public static string For(InstallScope scope) => scope == InstallScope.Everyone ? "for everyone" : "for you";

    /// <summary>The word for a scope in JSON.</summary>
    public static string Of(InstallScope scope) => scope == InstallScope.Everyone ? "everyone" : "user";

    /// <summary>What is said where a card is silent.</summary>
    public const string NotSupplied = "not supplied";

    /// <summary>A number of things: "1 app", "2 apps".</summary>
    public static string Count(int number, string one, string? many = null) => number.ToString(CultureInfo.InvariantCulture) + " " + (number == 1 ? one : many ?? one + "s");

    /// <summary>A size in binary units.</summary>
    public static string Size(long bytes) => ByteSize.Words(bytes);

    /// <summary>How long something took.</summary>
    public static string Duration(TimeSpan time) => time.TotalSeconds < 60 ? $"{(int)time.TotalSeconds} s" : time.TotalMinutes < 60 ? $"{(int)time.TotalMinutes} min {time.Seconds} s" : $"{(int)time.TotalHours} h {time.Minutes} min";

    /// <summary>How long ago something was.</summary>
    public static string Ago(DateTimeOffset since, DateTimeOffset now) => DataAge.IsAhead(since, now) ? "in the future (wrong clock?)" : Ago(now - since);

    private static string Ago(TimeSpan age) => age.TotalSeconds switch
    {
        < 60 => "just now",
        < 3600 => Count((int)age.TotalMinutes, "minute") + " ago",
        < 86400 => Count((int)age.TotalHours, "hour") + " ago",
        _ => Count((int)age.TotalDays, "day") + " ago",
    };

    /// <summary>How old the data of a root's catalogues are.</summary>
    public static string Age(Workstation station)
    {
        if (station.CatalogueStates() is { Count: > 0 } states) return Age(states, station.Clock.GetUtcNow());
        var known = station.Records.Catalogues();
        return known.Count == 0 ? "no catalogue has been added" : known.All(catalogue => catalogue.IsPaused) ? "every catalogue is paused" : "no catalogue has been fetched yet";
    }

    /// <summary>How old the data of catalogues are, of one at least; each for itself where they differ.</summary>
    public static string Age(IReadOnlyCollection<CatalogueState> catalogues, DateTimeOffset now) => catalogues.Count switch
    {
        1 => "catalogue refreshed " + Ago(catalogues.First().Refreshed, now),
        _ when catalogues.Select(catalogue => Ago(catalogue.Refreshed, now)).Distinct().Count() == 1 => "catalogues refreshed " + Ago(catalogues.First().Refreshed, now),
        _ => $"refreshed: {string.Join(", ", catalogues.Select(catalogue => $"{catalogue.Name} {Ago(catalogue.Refreshed, now)}"))}",
    };
}
