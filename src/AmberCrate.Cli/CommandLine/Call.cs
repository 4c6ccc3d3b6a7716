using System.CommandLine;
using System.Globalization;
using AmberCrate.Cli.Running;
using AmberCrate.Cli.Terminal;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Runs;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Cli.CommandLine;

/// <summary>A command line that has been read: the session that it asks for, and the values of its options.</summary>
internal sealed class Call : IDisposable
{
    private readonly ParseResult _parsed;
    private readonly OperationView _view;

    /// <summary>Reads a command line.</summary>
    /// <param name="parsed">The command line.</param>
    /// <param name="isSilent">Whether nothing is reported but problems and the result.</param>
    public Call(ParseResult parsed, bool isSilent = false)
    {
        (_parsed, Host) = (parsed, ProcessEnvironment.Read(parsed.GetValue(CommonOptions.Verbose)));
        Output = OutputOf(parsed);
        _view = new OperationView(Output, Host.Clock);
        Session = new Session(Host, RequestOf(parsed), isSilent ? _view.WatchNotes
            : _view.Watch, new ConsoleConfirm(Output, Host.HasTerminal));
        if (Session.Request.Scope == InstallScope.AllUsers) ProcessSetup.MakeReadableByAll();
    }

    /// <summary>What is around the program.</summary>
    public HostEnvironment Host { get; }

    /// <summary>Where results go.</summary>
    public Output Output { get; }

    /// <summary>The session.</summary>
    public Session Session { get; }

    /// <summary>What was requested in addition to the apps.</summary>
    /// <exception cref="ProblemException">An option cannot be read.</exception>
    public RunOptions RunOptions() => new()
    {
        IsDryRun = _parsed.GetValue(CommonOptions.DryRun), IsAgreed = _parsed.GetValue(CommonOptions.Yes),
        IsPicking = _parsed.GetValue(CommonOptions.Pick),
        Consent = new RunConsent
        {
            EvenInUse = _parsed.GetValue(CommonOptions.EvenInUse),
            Unconfined = _parsed.GetValue(CommonOptions.AllowUnconfined),
            Shadowing = _parsed.GetValue(CommonOptions.Shadow) ?? [], WaitClosed = WaitClosed(),
        },
        Skipped = _parsed.GetValue(CommonOptions.Skip) ?? [],
        TakesOver = _parsed.GetValue(CommonOptions.TakeOver) ?? [], AllowsUnsigned = _parsed.GetValue(CommonOptions.Unsigned),
        AsShown = AsShown(),
        StatedDigests = StatedDigests(), InstallerArguments = InstallerArguments(),
    };

    /// <summary>The file into which the outcome is to be written; null for none.</summary>
    /// <exception cref="ProblemException">It cannot be written, which is reported before anything is changed.</exception>
    public ReportFile? ReportFile() =>
        _parsed.GetValue(CommonOptions.Report) is { } file ? new ReportFile(file, Host.FullPath(file)) : null;

    /// <summary>The output that a command line asks for, also one that cannot be read otherwise.</summary>
    public static Output OutputOf(ParseResult parsed)
    {
        var hasColour =
            !parsed.GetValue(CommonOptions.NoColour) && string.IsNullOrEmpty(Environment.GetEnvironmentVariable("NO_COLOR"))
            && Environment.GetEnvironmentVariable("TERM") is not (null or "" or "dumb");
        var root = parsed.GetResult(CommonOptions.Root) is null ? null : parsed.GetValue(CommonOptions.Root);
        return new Output(
            new CallOptions(root is null ? null : Path.GetFullPath(root), parsed.GetValue(CommonOptions.AllUsers)),
            ((ProgramCommand)parsed.RootCommandResult.Command).Documents)
        {
            IsJson = parsed.GetValue(CommonOptions.Json), HasEscapes = hasColour,
            IsVerbose = parsed.GetValue(CommonOptions.Verbose), WritesLines = IsRun(parsed),
            IsQuiet = parsed.GetResult(CommonOptions.Quiet) is { Implicit: false } && parsed.GetValue(CommonOptions.Yes),
        };
    }

    /// <summary>Whether a command line asks for a run: for check, only with --repair.</summary>
    private static bool IsRun(ParseResult parsed)
    {
        var options = parsed.CommandResult.Command.Options;
        return options.Contains(CommonOptions.AsShown)
            && (options.FirstOrDefault(option => option.Name == "--repair") is not { } repair
                || parsed.GetResult(repair) is { Implicit: false });
    }

    /// <summary>The references given as arguments and in a list file.</summary>
    /// <exception cref="ProblemException">One cannot be read, or there is none.</exception>
    public IReadOnlyList<AppReference> References(IEnumerable<string> arguments)
    {
        List<string> texts = [.. arguments, .. ReadListFile()];
        if (texts.Count == 0) throw NoApp().ToException();
        return texts.ConvertAll(ReadReference);
    }

    /// <summary>Whether apps are named, as arguments or in a list file.</summary>
    public bool NamesApps(string[] arguments) => arguments.Length > 0 || _parsed.GetValue(CommonOptions.ListFile) is not null;

    /// <summary>The names of installed apps given as arguments and in a list file. A selector has no place there.</summary>
    /// <exception cref="ProblemException">One cannot be read.</exception>
    public IReadOnlyList<string> InstalledNames(IEnumerable<string> arguments)
    {
        var references = arguments.Concat(ReadListFile()).Select(ReadReference).ToList();
        if (references.Find(reference => reference.Selector is not null || reference.Catalogue is not null) is not { } tooMuch)
            return [.. references.Select(reference => reference.Name)];
        throw new Problem(
            ProblemCode.BadCommandLine, $"\"{tooMuch}\" has a version or a catalogue in it",
            "only the name of an installed app is expected",
            $"name {tooMuch.Name}; {NextCommand.Create("install", tooMuch.ToString())} changes what it follows").ToException();
    }

    /// <summary>The problem of a command that needs an app and has none.</summary>
    public Problem NoApp() =>
        new(ProblemCode.BadCommandLine, "no app is named", remedy: NextCommand.HelpOf(_parsed.CommandResult.Command.Name));

    public void Dispose()
    {
        _view.Dispose();
        Output.Dispose();
    }

    /// <summary>Ends what moves on the terminal, so that the result can be shown.</summary>
    public void EndProgress() => _view.Dispose();

    private CallRequest RequestOf(ParseResult parsed)
    {
        var given = parsed.GetResult(CommonOptions.Root) is null ? null : parsed.GetValue(CommonOptions.Root);
        return new CallRequest
        {
            Root = given ?? Host.Variable("ACRATE_ROOT"), IsRootGiven = given is not null,
            Scope = parsed.GetValue(CommonOptions.AllUsers) ? InstallScope.AllUsers : InstallScope.ThisUser,
            IsOffline = parsed.GetValue(CommonOptions.Offline), AcceptsStale = parsed.GetValue(CommonOptions.AcceptStale),
            CommandLine = "acrate " + string.Join(' ', parsed.Tokens.Select(token => token.Value)),
            Option = Given,
        };
    }

    /// <summary>An option that is also a setting, as it was given.</summary>
    private string? Given(string name) =>
        _parsed.CommandResult.Command.Options.FirstOrDefault(option => option.Name == name) is Option<string> option
        && _parsed.GetResult(option) is not null ? _parsed.GetValue(option) : null;

    private TimeSpan WaitClosed()
    {
        const int most = 7 * 24 * 60;
        if (_parsed.GetResult(CommonOptions.WaitClosed) is null || _parsed.GetValue(CommonOptions.WaitClosed) is not { } text)
            return TimeSpan.Zero;
        return decimal.TryParse(text, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var minutes)
            && minutes is >= 0 and <= most
            ? TimeSpan.FromMinutes((double)minutes)
            : throw Unusable($"--wait-closed \"{text}\" cannot be used", $"expected a number of minutes from 0 to {most}");
    }

    private Sha256Digest? AsShown()
    {
        if (_parsed.GetResult(CommonOptions.AsShown) is null || _parsed.GetValue(CommonOptions.AsShown) is not { } text)
            return null;
        return ReadDigest(text)
            ?? throw Unusable($"--as-shown \"{text}\" cannot be used", "expected sha256:DIGEST with 64 hexadecimal digits");
    }

    private Dictionary<string, Sha256Digest> StatedDigests()
    {
        var stated = new Dictionary<string, Sha256Digest>(StringComparer.Ordinal);
        foreach (var text in _parsed.GetValue(CommonOptions.AcceptDigest) ?? [])
        {
            if (text.Split('=', 2) is not [var id, var named] || !AppId.TryParse(id, out _)
                || ReadDigest(named) is not { } digest)
                throw Unusable(
                    $"--accept-digest \"{text}\" cannot be used",
                    "expected APP=sha256:DIGEST with an id and 64 hexadecimal digits");
            if (!stated.TryAdd(id, digest)) throw Unusable($"--accept-digest names {id} twice", "");
        }

        return stated;
    }

    private Dictionary<string, IReadOnlyList<string>> InstallerArguments() =>
        (_parsed.GetValue(CommonOptions.InstallerArguments) ?? [])
        .Select(text => text.Split('=', 2) is [var id, var argument] && AppId.TryParse(id, out _) ? (id, argument)
            : throw Unusable($"--installer-argument \"{text}\" cannot be used", "expected APP=ARGUMENT with an id"))
        .GroupBy(pair => pair.id, StringComparer.Ordinal)
        .ToDictionary(
            group => group.Key, IReadOnlyList<string> (group) => [.. group.Select(pair => pair.argument)],
            StringComparer.Ordinal);

    private static Sha256Digest? ReadDigest(string text)
    {
        const string kind = "sha256:";
        return text.StartsWith(kind, StringComparison.Ordinal)
            && Sha256Digest.TryParse(text[kind.Length..].ToLowerInvariant(), out var digest) ? digest : null;
    }

    private static ProblemException Unusable(string what, string why) =>
        new Problem(ProblemCode.BadCommandLine, what, why).ToException();

    private static AppReference ReadReference(string text)
    {
        try
        {
            return AppReference.Parse(text);
        }
        catch (MalformedException fault)
        {
            throw new Problem(ProblemCode.BadCommandLine, $"\"{text}\" is not a reference to an app", fault.Message).ToException(
                fault);
        }
    }

    private IEnumerable<string> ReadListFile()
    {
        if (_parsed.GetValue(CommonOptions.ListFile) is not { } named) return [];
        var path = InputFile.PathOf(named);
        if (!File.Exists(path)) throw new Problem(ProblemCode.NothingMatched, $"there is no file {path}").ToException();
        return File.ReadLines(path).Select(line => line.Split('#')[0].Trim()).Where(line => line.Length > 0);
    }
}
