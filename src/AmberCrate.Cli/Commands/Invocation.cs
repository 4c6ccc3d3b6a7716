using System.CommandLine;
using AmberCrate.Cli.Views;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Operations;
using AmberCrate.Engine.Rights;
using AmberCrate.Engine.Runs;

namespace AmberCrate.Cli.Commands;

/// <summary>What every command needs to know about how it was called.</summary>
internal sealed class Invocation : IDisposable
{
    private readonly ParseResult _parsed;
    private readonly bool _isHome;

    public Invocation(ParseResult parsed)
    {
        _parsed = parsed;
        Output = Output.Of(parsed);
        var root = (parsed.GetValue(CommonOptions.Root) ?? Environment.GetEnvironmentVariable("ACRATE_ROOT")) is { Length: > 0 } set ? Path.GetFullPath(set) : null;
        var own = root is null ? MachineLayout.OfUser(Environment.GetEnvironmentVariable) : MachineLayout.Under(root, Environment.GetEnvironmentVariable);
        var everyones = MachineLayout.OfEveryone(root ?? "/");
        var scope = CommonOptions.ScopeOf(parsed);
        _isHome = root is null;
        Raising = scope == InstallScope.Everyone ? Raising.Of(everyones, root) : null;
        Settings = new WorkstationSettings(
            scope == InstallScope.Everyone ? everyones : own,
            ReadPatience(), ReadRefreshAfter(), parsed.GetValue(CommonOptions.Offline), Environment.GetEnvironmentVariable)
        {
            OtherLayout = scope == InstallScope.Everyone ? own : everyones,
            Transfers = new SettingsReader(parsed).Transfers(), KeptLogs = new SettingsReader(parsed).KeptLogs(), LockPatience = new SettingsReader(parsed).LockPatience(),
        };
    }

    /// <summary>Where results go.</summary>
    public Output Output { get; }

    /// <summary>Where everything lies.</summary>
    public WorkstationSettings Settings { get; }

    /// <summary>How to get the rights that changing everyone's apps takes; null where they are there, or not needed.</summary>
    public Raising? Raising { get; }

    /// <summary>Whether a person can be asked something.</summary>
    public static bool HasTerminal => !Console.IsInputRedirected && !Console.IsErrorRedirected;

    /// <summary>The digest of the plan that has been shown already; null where none has.</summary>
    /// <exception cref="ProblemException">It cannot be read.</exception>
    public Sha256Digest? AsShown()
    {
        if (_parsed.GetResult(CommonOptions.AsShown) is null || _parsed.GetValue(CommonOptions.AsShown) is not { } text) return null;
        return ReadDigest(text) ?? throw new Problem(ProblemCode.BadCommandLine, $"--as-shown \"{text}\" cannot be used", "expected sha256:DIGEST with 64 hexadecimal digits").ToException();
    }

    /// <summary>The ids that the person leaves out with --skip.</summary>
    public IReadOnlyList<string> Skipped => _parsed.GetValue(CommonOptions.Skip) ?? [];

    /// <summary>Whether only the plan is wanted.</summary>
    public bool IsDryRun => _parsed.GetValue(CommonOptions.DryRun);

    /// <summary>Whether apps are changed that are open.</summary>
    public bool IsEvenOpen => _parsed.GetValue(CommonOptions.EvenOpen);

    /// <summary>Whether the person ticks what of the plan to carry out.</summary>
    /// <exception cref="ProblemException">There is no terminal to do it on.</exception>
    public bool IsPicking
    {
        get
        {
            if (!_parsed.GetValue(CommonOptions.Pick) || AsShown() is not null) return false;
            if (HasTerminal && !Output.IsJson) return true;
            throw new Problem(ProblemCode.BadCommandLine, "there is no terminal on which to tick items", "nothing has been changed", "name what you want, or leave --pick out").ToException();
        }
    }

    /// <summary>The digests that the person states with --expect, by id.</summary>
    /// <exception cref="ProblemException">One cannot be read, or an app is named twice.</exception>
    public IReadOnlyDictionary<string, Sha256Digest> StatedDigests()
    {
        var stated = new Dictionary<string, Sha256Digest>(StringComparer.Ordinal);
        foreach (var text in _parsed.GetValue(CommonOptions.Expect) ?? [])
        {
            if (text.Split('=', 2) is not [var id, var named] || !AppId.TryParse(id, out _) || ReadDigest(named) is not { } digest)
                throw new Problem(ProblemCode.BadCommandLine, $"--expect \"{text}\" cannot be used", "expected APP=sha256:DIGEST with an id and 64 hexadecimal digits").ToException();
            if (!stated.TryAdd(id, digest)) throw new Problem(ProblemCode.BadCommandLine, $"--expect names {id} twice").ToException();
        }

        return stated;
    }

    private static Sha256Digest? ReadDigest(string text)
    {
        const string kind = "sha256:";
        return text.StartsWith(kind, StringComparison.Ordinal) && Sha256Digest.TryParse(text[kind.Length..].ToLowerInvariant(), out var digest) ? digest : null;
    }

    /// <summary>What the person gives to installers with --to-installer, by id.</summary>
    /// <exception cref="ProblemException">One names no app.</exception>
    public IReadOnlyDictionary<string, IReadOnlyList<string>> InstallerArguments() => (_parsed.GetValue(CommonOptions.ToInstaller) ?? [])
        .Select(text => text.Split('=', 2) is [var id, var argument] && AppId.TryParse(id, out _) ? (id, argument)
            : throw new Problem(ProblemCode.BadCommandLine, $"--to-installer \"{text}\" cannot be used", "expected APP=ARGUMENT with an id").ToException())
        .GroupBy(pair => pair.id, StringComparer.Ordinal)
        .ToDictionary(group => group.Key, IReadOnlyList<string> (group) => [.. group.Select(pair => pair.argument)], StringComparer.Ordinal);

    /// <summary>The time.</summary>
    public static TimeProvider Clock => TimeProvider.System;

    /// <summary>Opens the root for reading.</summary>
    public Workstation OpenToRead() => Greeted(Workstation.OpenToRead(Settings, Clock));

    /// <summary>Says where the other scope cannot be read.</summary>
    public void NoteOther(Workstation station)
    {
        if (station.Other.Fault is { } fault) Output.Notice($"what is on {Words.For(station.Other.Layout.Scope)} cannot be told: {fault.What}");
    }

    /// <summary>Opens everyone's apps for reading beside a person's own; null where there are none, or where they are what was asked for.</summary>
    public Workstation? OpenEveryonesToo(Workstation own)
    {
        NoteOther(own);
        if (own.Layout.Scope != InstallScope.ThisUser || own.Other.Apps.Count == 0) return null;
        var other = Workstation.OpenToRead(Settings with { Layout = Settings.OtherLayout, OtherLayout = Settings.Layout }, Clock);
        NoteCache(other);
        return other;
    }

    /// <summary>Says where a catalogue cache cannot be used.</summary>
    private void NoteCache(Workstation station)
    {
        if (!station.Cache.IsUnreadable) return;
        Output.Notice($"{station.Layout.CataloguesFile} is damaged or of another version of acrate, and with these rights it cannot be made anew: nothing is known of these catalogues until {CommandText.In(station.Layout.Scope, "acrate catalogue refresh")}");
    }

    /// <summary>Opens the root for reading, with catalogue data that are not older than the person wishes where they can be had.</summary>
    public async Task<Workstation> OpenToReadFreshAsync(CancellationToken cancel) => await FreshAsync(OpenToRead(), cancel);

    /// <summary>Opens the root for changing it, with catalogue data likewise.</summary>
    public async Task<Workstation> OpenToChangeFreshAsync(CancellationToken cancel) => await FreshAsync(OpenToChange(), cancel);

    /// <summary>Opens the root for changing it; for reading only where just the plan is wanted, or another process will carry it out.</summary>
    /// <exception cref="ProblemException">Rights are missing and cannot be raised, the folders are another user's, or another run holds the lock.</exception>
    public Workstation OpenToChange()
    {
        if (IsDryRun) return OpenToRead();
        if (_isHome && Settings.Layout.Scope == InstallScope.ThisUser)
        {
            if (FolderRights.Foreign(Settings.Layout) is { } foreign) throw foreign.ToException();
            if (Raised is { } person) Output.Notice($"this puts apps on for root alone, not for {person}; --everyone puts them on for all users");
        }

        RequireRaisable();
        return Raising is not null ? OpenToRead() : Greeted(Workstation.OpenToChange(Settings, Clock, CommandLine, holder => Output.Notice($"waiting for another run to end, {holder}")));
    }

    /// <summary>Has the whole command run again with the rights that it takes, where they are missing.</summary>
    /// <returns>With what it ended; null where the rights are there.</returns>
    /// <exception cref="ProblemException">They cannot be raised.</exception>
    public int? RunRaised()
    {
        if (Raising is null || IsDryRun) return null;
        RequireRaisable();
        Output.Notice($"this takes root's rights; {Raising.By} may ask for a password");
        return Raising.Run(Output, []);
    }

    /// <summary>Which rights a plan takes.</summary>
    public RightsNeed RightsFor(Plan plan)
    {
        if (!plan.Changes) return RightsNeed.Own;
        if (Raising is not null) return Raising.By is { } way ? new RightsNeed(RightsState.Raised, way) : new RightsNeed(RightsState.Missing, Raising.Lack);
        return FolderRights.Missing(Settings.Layout) is { } missing ? new RightsNeed(RightsState.Missing, missing.What) : RightsNeed.Own;
    }

    private void RequireRaisable() => Raising?.RequirePossible(HasTerminal, _parsed.CommandResult.Command.Options.Contains(CommonOptions.Yes) ? ["--yes"] : []);

    /// <summary>Who has raised their rights to run this; null where nobody is known to have.</summary>
    private static string? Raised => FolderRights.CanBeRaised ? null : Environment.GetEnvironmentVariable("SUDO_USER") is { Length: > 0 } and not "root" and var name ? name : null;

    /// <summary>The command as it was typed.</summary>
    public string CommandLine => "acrate " + string.Join(' ', _parsed.Tokens.Select(token => token.Value));

    /// <summary>The references given as arguments and in a list file.</summary>
    /// <exception cref="ProblemException">One cannot be read, or there is none.</exception>
    public IReadOnlyList<AppReference> References(IEnumerable<string> arguments)
    {
        List<string> texts = [.. arguments];
        if (_parsed.GetValue(CommonOptions.ListFile) is not null) texts.AddRange(ReadListFile());
        if (texts.Count == 0) throw new Problem(ProblemCode.BadCommandLine, "no app is named", Remedy: $"acrate {_parsed.CommandResult.Command.Name} --help").ToException();
        return texts.ConvertAll(ReadReference);
    }

    /// <summary>The names of installed apps given as arguments and in a list file. A selector has no place there.</summary>
    /// <exception cref="ProblemException">One cannot be read.</exception>
    public IReadOnlyList<string> InstalledNames(IEnumerable<string> arguments)
    {
        var references = arguments.Concat(ReadListFile()).Select(ReadReference).ToList();
        return references.Find(reference => reference.Selector is not null || reference.Catalogue is not null) is { } tooMuch
            ? throw new Problem(
                ProblemCode.BadCommandLine, $"\"{tooMuch}\" says more than the name of an installed app", Remedy: $"acrate install {tooMuch} changes which release is kept; here only {tooMuch.Name} is expected").ToException()
            : [.. references.Select(reference => reference.Name)];
    }

    /// <summary>Asks whether to go ahead.</summary>
    /// <returns>False where the person says no.</returns>
    /// <exception cref="ProblemException">There is nobody to ask.</exception>
    public bool MayGoAhead(string question, CancellationToken cancel)
    {
        if (_parsed.GetValue(CommonOptions.Yes)) return true;
        if (!HasTerminal || Output.IsJson)
        {
            throw new Problem(
                ProblemCode.BadCommandLine, "there is no terminal on which to ask whether to go ahead", "nothing has been changed", "say --yes to go ahead, or --dry-run to see the plan only").ToException();
        }

        return Output.Ask(question, cancel);
    }

    public void Dispose() => Output.Dispose();

    private static TimeSpan ReadPatience()
    {
        var text = Environment.GetEnvironmentVariable("ACRATE_NETWORK_TIMEOUT");
        if (string.IsNullOrEmpty(text)) return Fetcher.DefaultPatience;
        return int.TryParse(text, out var seconds) && seconds is >= 1 and <= 3600
            ? TimeSpan.FromSeconds(seconds)
            : throw new Problem(ProblemCode.BadCommandLine, $"ACRATE_NETWORK_TIMEOUT is \"{text}\"", "expected whole seconds from 1 to 3600").ToException();
    }

    private static TimeSpan? ReadRefreshAfter()
    {
        var text = Environment.GetEnvironmentVariable("ACRATE_REFRESH_HOURS");
        if (string.IsNullOrEmpty(text)) return WorkstationSettings.DefaultRefreshAfter;
        if (!int.TryParse(text, out var hours) || hours is < 0 or > 8760)
            throw new Problem(ProblemCode.BadCommandLine, $"ACRATE_REFRESH_HOURS is \"{text}\"", "expected whole hours from 0 (never) to 8760").ToException();
        return hours == 0 ? null : TimeSpan.FromHours(hours);
    }

    /// <summary>A catalogue that cannot be reached never fails the command that wanted fresh data: the old ones are used, and that is said.</summary>
    private async Task<Workstation> FreshAsync(Workstation station, CancellationToken cancel)
    {
        if (AsShown() is not null || station.Cache.IsUnreadable) return station;
        try
        {
            var stale = station.StaleCatalogues();
            if (stale.Count == 0)
            {
                if (station.NeverFetched() is { Count: > 0 } unknown) Output.Notice($"nothing is known yet of {string.Join(", ", unknown)}: never fetched, and nobody is asked now");
                return station;
            }

            if (!FolderRights.CanWriteCache(Settings.Layout))
            {
                Output.Notice($"{string.Join(", ", stale.Select(catalogue => catalogue.Name))} cannot be refreshed with these rights; the data at hand are used. {CommandText.In(Settings.Layout.Scope, "acrate catalogue refresh")} brings them up to date");
                return station;
            }

            foreach (var failed in (await station.RefreshAsync(stale, WatchRefresh, cancel)).Where(result => result.Problem is not null))
            {
                var problem = failed.Problem!;
                var data = failed.State is { } old ? $"using data refreshed {Words.Ago(old.Refreshed, Clock.GetUtcNow())}" : "nothing is known of it yet";
                Output.Notice($"{failed.Catalogue.Name} could not be refreshed, {data}: {(problem.Why.Length > 0 ? problem.Why : problem.What)}");
            }

            Output.Status("");
            return station;
        }
        catch
        {
            station.Dispose();
            throw;
        }
    }

    /// <summary>Shows how far a refresh is, where somebody watches.</summary>
    public void WatchRefresh(CatalogueName name, int done, int count) => Output.Status($"refreshing {name}: {done} of {count} shards");

    private static AppReference ReadReference(string text)
    {
        try
        {
            return AppReference.Parse(text);
        }
        catch (FormatException fault)
        {
            throw new Problem(ProblemCode.BadCommandLine, $"\"{text}\" is not a reference to an app", fault.Message).ToException(fault);
        }
    }

    private IEnumerable<string> ReadListFile()
    {
        if (_parsed.GetValue(CommonOptions.ListFile) is not { } path) return [];
        if (!File.Exists(path)) throw new Problem(ProblemCode.NothingMatched, $"there is no file {path}").ToException();
        return File.ReadLines(path)
            .Select(line => line.Split('#')[0].Trim())
            .Where(line => line.Length > 0);
    }

    private Workstation Greeted(Workstation station)
    {
        if (station.Cache.WasRebuilt) Output.Notice("the catalogue cache could not be read and was made anew; acrate catalogue refresh fills it");
        NoteCache(station);
        foreach (var id in station.Reverted) Output.Notice($"an earlier run was cut off: {id} is back as it was before");
        if (station.NotOnRecord.Count > 0) Output.Notice($"in place, but not on record: {string.Join(", ", station.NotOnRecord)}; {CommandText.In(Settings.Layout.Scope, $"acrate install {string.Join(' ', station.NotOnRecord)}")} takes up again what its catalogue still has");
        return station;
    }
}
