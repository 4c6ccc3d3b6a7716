using AmberCrate.Cli.Shared;
using AmberCrate.Cli.Tables;
using AmberCrate.Cli.Terminal;
using AmberCrate.Cli.Texts;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Offers;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Searching;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Searching;

namespace AmberCrate.Cli.Searching;

/// <summary>Shows everything that is known about one app.</summary>
internal static class AboutView
{
    private const int FactWidth = 15;
    private const int DigestShown = 12;

    public static void Show(Output output, AboutResult result, bool everyRelease)
    {
        var app = result.Apps[0];
        if (output.IsJson) output.Json(AboutDocument.FromResult(result, output.Call));
        else if (app.Assessment.Offer is { } offer) WriteText(output, app, offer, everyRelease, result);
        else WriteOrphan(output, app, result);
    }

    private static void WriteOrphan(Output output, AboutApp app, AboutResult result)
    {
        var installed = app.Assessment.Installed!;
        output.Line(new Cell(installed.Name, Tone.Strong), "  " + installed.Id);
        output.Line(new Cell($"No catalogue offers it: it came from {installed.Catalogue}, and {app.Orphaned}.", Tone.Attention));
        output.Line();
        WriteInstalled(output, app, installed, result.LayoutOf(app), isAlone: true);
        output.Line(new Cell(Words.Age(result.Freshness), Tone.Quiet));
    }

    private static void WriteText(Output output, AboutApp app, Offer offer, bool everyRelease, AboutResult result)
    {
        var (card, assessment) = (LocalCard.Localise(offer.Card, result.Languages), app.Assessment);
        output.Line(new Cell(card.Name, Tone.Strong), "  " + card.Id);
        output.Line(card.Summary);
        output.Line();
        if (card.Description is { } description)
        {
            output.Paragraphs(description, 2);
            output.Line();
        }

        foreach (var (name, value) in AppFacts.List(card)) Fact(output, name, value);
        if (card.MimeTypes.Count > 0) Fact(output, "opens", Opened(card));
        foreach (var picture in card.Screenshots)
            Fact(output, "picture", picture.Address + (picture.Caption is { } caption ? $"  {caption}" : ""));
        if (card.Translations.Count > 0) Fact(output, "languages", Languages(card));
        Fact(output, "catalogue", Words.Catalogue(offer.Catalogue, app.Scope, result.Layout.Scope));
        output.Line();
        WriteReleases(output, assessment, everyRelease, result.Platform);
        WriteChoice(output, app, result);
        WriteHere(output, app, result);
        WriteOthers(output, app, result);
        output.Line(new Cell(Words.Age(result.Freshness), Tone.Quiet));
        if (app.Next is { } next) output.Next(next);
    }

    /// <summary>The types of file that it opens, as people call them.</summary>
    private static string Opened(AppCard card) =>
        FileTypes.Collect(card.MimeTypes) is { Length: > 0 } words ? words.Replace(" ", ", ") : string.Join(", ", card.MimeTypes);

    private static string Languages(AppCard card) =>
        string.Join(", ", card.Translations.Select(text => text.Language).Order(StringComparer.Ordinal).Prepend("en"));

    /// <summary>What is installed: in this scope, and in the other.</summary>
    private static void WriteHere(Output output, AboutApp app, AboutResult result)
    {
        if (app.Assessment.Installed is { } installed)
            WriteInstalled(output, app, installed, result.LayoutOf(app), app.Other is null);
        else output.Line(app.Other is null ? "Not installed." : $"Not installed {ScopeText.For(app.Scope)}.");
        foreach (var other in app.AlsoHere) output.Line(new Cell($"Also here as {other.Words}.", Tone.Attention));
        WriteOther(output, app, result);
    }

    private static void WriteOther(Output output, AboutApp app, AboutResult result)
    {
        if (app.Other is not { } other) return;
        WriteInstalled(output, app, other, result.OtherLayoutOf(app), isAlone: false);
        if (app.Assessment.Installed is not null)
            ScopeView.ShowInBothScopes(output, [other], app.Scope, result.FirstOnPath);
    }

    private static void WriteReleases(Output output, AppAssessment assessment, bool every, Platform platform)
    {
        var all = assessment.Offer!.Card.Releases;
        var table = new TextTable(every ? Shapes.Releases : Shapes.Lines);
        foreach (var release in every ? all : assessment.Lines)
        {
            var notes = new Cell(News(release), release.Urgency is null && release.Notes is null ? Tone.Quiet : Tone.Plain);
            var state = release.Version == assessment.Installed?.Version
                ? "installed"
                : release.DeliveryFor(platform) is null ? new Cell("does not run", Tone.Attention) : "";
            if (every) table.Add(release.Version.Text, release.Line.Name, PlainText.Date(release.Date), state, notes);
            else table.Add(release.Line.Name, release.Version.Text, PlainText.Date(release.Date), state, notes);
        }

        output.Table(table);
        if (!every && all.Count > assessment.Lines.Count)
            output.Line(new Cell(Words.Count(all.Count, "release") + " in all; --releases shows each", Tone.Quiet));
        output.Line();
    }

    /// <summary>What is new in a release, and how much it matters.</summary>
    private static string News(Release release)
    {
        var notes = release.Notes?.Trim();
        return release.Urgency is { } urgency
            ? $"{CardWords.Urgencies.WordOf(urgency)} urgency{(notes is null ? "" : $": {notes}")}"
            : notes ?? Words.NotSupplied;
    }

    private static void WriteChoice(Output output, AboutApp app, AboutResult result)
    {
        var assessment = app.Assessment;
        if (assessment.Choice is not { } choice)
        {
            output.Line(new Cell(
                assessment is { Withdrawn: { } gone, Offer: { } offer }
                    ? $"No release for this machine: {offer.Catalogue} has withdrawn {gone.Version} ({gone.Withdrawn})."
                    : $"No release for this machine ({result.Platform}).",
                Tone.Attention));
            output.Line();
            return;
        }

        var (release, delivery) = (choice.Release, choice.Delivery);
        output.Line("On this machine ", new Cell(assessment.Id + "@" + release.Version, Tone.Strong), " would be");
        Facts(output, "downloaded", delivery.Files, file => PlainText.Shown(file.Location.Resolve(choice.Offer.Base)), "");
        Fact(output, "size", Words.Size(delivery.DownloadSize)
            + (delivery.Files.Count > 1 ? $" in {delivery.Files.Count} files, " : ", ")
            + (delivery.InstalledSize is { } size ? Words.Size(size) + " unpacked" : "unpacked size not supplied"));
        var formats = delivery.Files.Select(file => CardWords.Formats.WordOf(file.Format)).Distinct();
        Fact(output, "format", string.Join(" and ", formats) + " for " + delivery.Platform);
        Facts(output, "sha256", delivery.Files, file => file.Sha256.Hex, "");
        var needs = choice.Offer.Card.NeedsOf(release);
        Facts(output, "needs", needs, need => need.ToString(), "no other app");
        if (assessment.AlongProblem is { } problem) Fact(output, "", new Cell(
            $"{problem.What} ({(problem.Details.Count > 0 ? string.Join("; ", problem.Details) : problem.Why)})",
            Tone.Attention));
        else if (needs.Count > 0) Facts(
            output, "also installs", assessment.Along,
            item => item.Id + " " + item.To + ", " + Words.Size(item.Delivery!.DownloadSize), "nothing, it is there already");
        WriteSystem(output, app.System);
        if (Words.Launcher(choice.Offer.Card.PlacementOf(release)) is { } launcher)
            Fact(output, "started", $"by a launcher that {launcher}");
        Facts(
            output, "placed", choice.Places, place => result.LayoutOf(app).PathOf(place.Kind, place.Name),
            "nothing outside the shelf");
        output.Line();
    }

    /// <summary>What it requires of the system: said only where the card states it and the system was looked at.</summary>
    private static void WriteSystem(Output output, SystemState? state)
    {
        if (state is null) Fact(output, "of the system", new Cell(Words.NotSupplied, Tone.Quiet));
        else if (state.Required.Count == 0) Fact(output, "of the system", "nothing");
        else if (state.Lacks.Count == 0)
            Fact(output, "of the system", $"{Words.Count(state.Required.Count, "thing")}, none seen missing");
        else
        {
            Facts(output, "system lacks", state.Lacks, lack => lack.Words, "");
            if (state.InstallLine is { } line) Fact(output, "to install it", line);
        }
    }

    private static void WriteInstalled(
        Output output, AboutApp app, InstalledApp installed, MachineLayout layout, bool isAlone)
    {
        output.Line(
            isAlone && layout.Scope == InstallScope.ThisUser ? "Installed is " : $"Installed {ScopeText.For(layout.Scope)} is ",
            new Cell(installed.Version.Text, Tone.Strong));
        Fact(output, "since", $"{PlainText.Time(installed.InstalledAt)} from {installed.Catalogue}");
        if (app.Assessment.IsChanged && installed == app.Assessment.Installed)
            Fact(output, "file", new Cell("changed by the catalogue since it was installed", Tone.Attention));
        if (app.Assessment.HeldBack is { } held && installed == app.Assessment.Installed)
            Fact(output, "upgrade", new Cell(held, Tone.Attention));
        if (installed.IsUnsigned) Fact(output, "trust", "taken without a signature");
        if (installed.IsDigestStated) Fact(output, "file", $"sha256 {installed.Sha256}, which you stated");
        Fact(output, "follows", installed.Follows is null ? "the newest" : "@" + installed.Follows);
        if (app.Pin is { } pin) Fact(output, "pin", new Cell(pin.Words, Tone.Attention));
        Fact(output, "place", Path.Combine(layout.ShelfOf(installed.Id), installed.ShelfName));
        Facts(output, "placed", installed.Placed, item => layout.PathOf(item.Kind, item.Name), "nothing outside the shelf");
        output.Line();
    }

    private static void WriteOthers(Output output, AboutApp app, AboutResult result)
    {
        var assessment = app.Assessment;
        if (assessment.Others.Count + app.Elsewhere.Count == 0) return;
        output.Line("Other catalogues have ", new Cell(assessment.Id.Text, Tone.Strong), " too:");
        var table = new TextTable(Shapes.Offers);
        table.Add(Other(Name(assessment.Offer!, app.Scope), assessment.Offer!, assessment.Choice, "(shown above)"));
        foreach (var other in assessment.Others) AddOther(other, app.Scope);
        foreach (var other in app.Elsewhere) AddOther(other, ScopeView.OtherThan(app.Scope));
        output.Table(table);
        output.Line();

        string Name(Offer offer, InstallScope scope) => Words.Catalogue(offer.Catalogue, scope, result.Layout.Scope);

        void AddOther(OtherOffer other, InstallScope scope) =>
            table.Add(Other(Name(other.Offer, scope), other.Offer, other.Choice, other.Differences.Count == 0
                ? "nothing that matters"
                : new Cell(string.Join(", ", other.Differences), Tone.Attention)));
    }

    private static Cell[] Other(string name, Offer offer, ReleaseChoice? choice, Cell last) =>
    [
        new Cell(name, Tone.Strong), choice?.Release.Version.Text ?? "none fits",
        choice is null ? "" : choice.Delivery.Sha256.Hex[..DigestShown] + "…",
        CardWords.ReviewStates.WordOf(offer.Card.Review.State), offer.Card.Developer?.Name ?? Words.NotSupplied, last,
    ];

    private static void Fact(Output output, string name, Cell value) =>
        output.Fact(new Cell("  " + name.PadRight(FactWidth), Tone.Quiet), value);

    private static void Facts<T>(Output output, string name, IReadOnlyList<T> values, Func<T, string> text, string none)
    {
        for (var at = 0; at < values.Count; at++) Fact(output, at == 0 ? name : "", text(values[at]));
        if (values.Count == 0) Fact(output, name, none);
    }
}
