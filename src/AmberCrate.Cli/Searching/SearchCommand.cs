using System.CommandLine;
using AmberCrate.Cli.Bundling;
using AmberCrate.Cli.CommandLine;
using AmberCrate.Cli.Running;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Searching;
using AmberCrate.Core.Versions;
using AmberCrate.Engine.Bundling;
using AmberCrate.Engine.Searching;

namespace AmberCrate.Cli.Searching;

/// <summary><c>acrate search</c>.</summary>
internal static class SearchCommand
{
    private const int DefaultLimit = 20;

    private static readonly Argument<string[]> Words =
        new DeclaredArgument<string[]>("WORDS", Completion.OfferedApp)
        {
            Description = "What it is called, or what it is for", Arity = ArgumentArity.ZeroOrMore,
        };
    private static readonly Option<string> InCatalogue =
        new DeclaredOption<string>(OptionGroup.Selection, "--catalogue")
        {
            Description = "Only this catalogue", HelpName = "NAME", Completion = Completion.Catalogue,
        };
    private static readonly Option<string> Kind =
        new DeclaredOption<string>(OptionGroup.Selection, "--kind")
        {
            Description = "Only this kind: desktop, console, runtime or font", HelpName = "KIND", Completion = Completion.Word,
            Words = ["desktop", "console", "runtime", "font"],
        };
    private static readonly Option<string> Category =
        new DeclaredOption<string>(OptionGroup.Selection, "--category")
        {
            Description = "Only this category, by its name or in plain words", HelpName = "WORD",
        };
    private static readonly Option<string> ByDeveloper =
        new DeclaredOption<string>(OptionGroup.Selection, "--developer")
        {
            Description = "Only developers with words like these in their name", HelpName = "WORDS",
        };
    private static readonly Option<string> Licence = new DeclaredOption<string>(
        OptionGroup.Selection, "--licence")
    { Description = "Only this SPDX licence", HelpName = "ID" };
    private static readonly Option<bool> Installed =
        new DeclaredOption<bool>(OptionGroup.Selection, "--installed") { Description = "Only apps that are installed" };
    private static readonly Option<bool> NotInstalled =
        new DeclaredOption<bool>(OptionGroup.Selection, "--not-installed") { Description = "Only apps that are not installed" };
    private static readonly Option<bool> Reviewed =
        new DeclaredOption<bool>(
            OptionGroup.Selection, "--reviewed")
        { Description = "Only apps that the catalogue's maintainers have reviewed" };
    private static readonly Option<string> Sort =
        new DeclaredOption<string>(OptionGroup.Selection, "--sort")
        {
            Description = "Order: match, name, newest or popular", HelpName = "ORDER", Completion = Completion.Word,
            Words = ["match", "name", "newest", "popular"],
        };
    private static readonly Option<string> Language =
        CommonOptions.LanguageOf("Search and show this language in addition to English, such as de");
    private static readonly Option<bool> Bundles =
        new DeclaredOption<bool>(OptionGroup.Selection, "--bundles")
        {
            Description = "Find bundles that catalogues carry, instead of apps",
        };
    private static readonly Option<string> Into =
        new DeclaredOption<string>(OptionGroup.Output, "--into")
        {
            Description = "Put the apps that are shown into the bundle FILE", HelpName = "FILE", Completion = Completion.File,
        };
    private static readonly Option<bool> Pick =
        new DeclaredOption<bool>(OptionGroup.Output, "--pick")
        {
            Description = "With --into: choose on the terminal which of them",
        };
    private static readonly Option<int> Limit =
        new DeclaredOption<int>(OptionGroup.Selection, "--limit")
        {
            Description = "Show at most N apps", HelpName = "N", DefaultValueFactory = _ => DefaultLimit,
        };

    public static Command Create()
    {
        var command = new HelpedCommand("search", "Find apps by name or purpose", new CommandHelp(
            "Finds apps in all catalogues. Case, accents, hyphens and the order of words do not matter, and small "
                + "spelling mistakes are forgiven. The best match comes first. A column says how an app was found.",
            [3, 6],
            [
                ("acrate search drawing", "apps for drawing, whatever they are called"),
                ("acrate search --category sound --sort newest", "all apps for sound, the newest first"),
            ]))
        {
            Words, InCatalogue, Kind, Category, ByDeveloper, Licence, Installed, NotInstalled, Reviewed, Bundles, Sort, Limit,
            Language,
            Into, Pick,
        };
        command.SetAction(async (parsed, cancel) =>
        {
            using var call = new Call(parsed);
            if (parsed.GetValue(Bundles)) return await SearchBundlesAsync(call, parsed.GetValue(Words)!, cancel);
            if (parsed.GetValue(Pick) && parsed.GetValue(Into) is null) throw Misuse("--pick goes with --into only");
            var report = await new Search(call.Session).RunAsync(ReadRequest(parsed), cancel);
            if (parsed.GetValue(Into) is { } file && report.Results.Total > 0)
                return await PutAsync(call, report, file, parsed.GetValue(Pick), cancel);
            SearchView.Show(call.Output, report);
            return report.Results.Total > 0 ? ExitCodes.AllAsAsked : ExitCodes.ForProblem(ProblemCode.NothingMatched);
        });
        return command;
    }

    private static async Task<int> SearchBundlesAsync(Call call, IReadOnlyList<string> words, CancellationToken cancel)
    {
        var found = await new LookAtBundle(call.Session).SearchAsync(words, cancel);
        BundleView.ShowCarried(call.Output, found);
        return found.Count > 0 ? ExitCodes.AllAsAsked : ExitCodes.ForProblem(ProblemCode.NothingMatched);
    }

    /// <summary>Puts what was found into a bundle.</summary>
    private static async Task<int> PutAsync(
        Call call, SearchReport report, string file, bool isPicking, CancellationToken cancel)
    {
        var found = report.Apps.Where(app => app.Version is not null).DistinctBy(app => app.Result.Id).ToList();
        var names = found.Select(app => app.Result.Id.Text).ToHashSet(StringComparer.Ordinal);
        if (isPicking)
        {
            var confirm = new ConsoleConfirm(call.Output, call.Host.HasTerminal);
            if (!confirm.CanAsk) throw Misuse("--pick needs a terminal");
            if (confirm.Pick([.. found.Select(app => (app.Result.Id.Text, $"{app.Version}  {app.Result.Summary}"))], cancel)
                is not { Count: > 0 } picked) return ExitCodes.ForProblem(ProblemCode.Interrupted);
            names.IntersectWith(picked);
        }

        BundleView.ShowEdit(call.Output, await new EditBundle(call.Session).IncludeAsync(
            file,
            [.. found.Where(app => names.Contains(app.Result.Id.Text))
                .Select(app => new AppReference(app.Result.Catalogue, app.Result.Id.Text, null))],
            cancel));
        return ExitCodes.AllAsAsked;
    }

    private static SearchRequest ReadRequest(ParseResult parsed)
    {
        if (parsed.GetValue(Limit) < 1) throw Misuse("--limit takes a whole number from 1");
        if (parsed.GetValue(Installed) && parsed.GetValue(NotInstalled))
            throw Misuse("--installed and --not-installed exclude each other");
        var filter = new SearchFilter
        {
            Kind = ReadKind(parsed.GetValue(Kind)),
            Category = parsed.GetValue(Category) is { } category ? SearchText.Fold(category) : null,
            Developer = parsed.GetValue(ByDeveloper) is { } developer ? SearchText.Fold(developer) : null,
            Licence = parsed.GetValue(Licence)?.ToLowerInvariant(),
            Installed = parsed.GetValue(Installed) ? true : parsed.GetValue(NotInstalled) ? false : null,
            ReviewedOnly = parsed.GetValue(Reviewed),
        };
        return new SearchRequest(
            parsed.GetValue(Words)!, filter, ReadOrder(parsed.GetValue(Sort)), parsed.GetValue(InCatalogue),
            parsed.GetValue(Limit), CommonOptions.ReadLanguage(parsed.GetValue(Language), "search"));
    }

    private static AppKind? ReadKind(string? word) => word switch
    {
        null => null,
        "desktop" or "desktop-application" => AppKind.DesktopApp,
        "console" or "console-application" => AppKind.ConsoleApp,
        "runtime" => AppKind.Runtime,
        "font" => AppKind.Font,
        _ => throw Misuse($"--kind takes desktop, console, runtime or font, not \"{word}\""),
    };

    private static SearchOrder ReadOrder(string? word) => word switch
    {
        null or "match" => SearchOrder.Match,
        "name" => SearchOrder.Name,
        "newest" => SearchOrder.Newest,
        "popular" => SearchOrder.Popular,
        _ => throw Misuse($"--sort takes match, name, newest or popular, not \"{word}\""),
    };

    private static ProblemException Misuse(string what) =>
        new Problem(ProblemCode.BadCommandLine, what, remedy: NextCommand.HelpOf("search")).ToException();
}
