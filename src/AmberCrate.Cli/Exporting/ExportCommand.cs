using System.CommandLine;
using AmberCrate.Cli.CommandLine;
using AmberCrate.Core.Bundles;
using AmberCrate.Core.Inventories;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Exporting;
using AmberCrate.Engine.Host;

namespace AmberCrate.Cli.Exporting;

/// <summary><c>acrate export</c>.</summary>
internal static class ExportCommand
{
    private static readonly WordTable<BundleVersions> Versions = new(
        (BundleVersions.Exact, "exact"), (BundleVersions.Follow, "follow"), (BundleVersions.None, "none"));

    private static readonly Argument<string[]> Apps =
        CommonOptions.Apps("Only these apps; default: all", Completion.InstalledApp);
    private static readonly Option<string> File = new DeclaredOption<string>(OptionGroup.Output, "--output", "-o")
    {
        Description = "The file to write; default: standard output", HelpName = "FILE", Completion = Completion.File,
    };
    private static readonly Option<string> Form = new DeclaredOption<string>(OptionGroup.Output, "--as")
    {
        Description = $"What to write: {string.Join(", ", InventoryWords.Forms.Pairs.Select(pair => pair.Word))}",
        HelpName = "FORM",
        Completion = Completion.Word, Words = [.. InventoryWords.Forms.Pairs.Select(pair => pair.Word)],
    };
    private static readonly Option<string> WithVersions = new DeclaredOption<string>(OptionGroup.Selection, "--versions")
    {
        Description = "exact: each version; follow: only what each app follows; none: the newest of all", HelpName = "WHICH",
        Completion = Completion.Word, Words = [.. Versions.Pairs.Select(pair => pair.Word)],
    };
    private static readonly Option<string> Catalogue = new DeclaredOption<string>(OptionGroup.Selection, "--catalogue")
    {
        Description = "Only apps of this catalogue", HelpName = "NAME", Completion = Completion.Catalogue,
    };
    private static readonly Option<bool> Pick = new DeclaredOption<bool>(OptionGroup.Selection, "--pick")
    {
        Description = "Choose the apps on the terminal",
    };
    private static readonly Option<bool> Update = new DeclaredOption<bool>(OptionGroup.Output, "--update")
    {
        Description = "Update an existing FILE; comments and order stay",
    };
    private static readonly Option<string> Title = new DeclaredOption<string>(OptionGroup.Output, "--title")
    {
        Description = "What the bundle calls this machine", HelpName = "TEXT",
    };

    public static Command Create()
    {
        var command = new HelpedCommand("export", "Write this machine down as a bundle", new CommandHelp(
            "Writes the apps of this machine, their versions, what they follow, pins and the catalogues they come from into a "
                + "bundle; equip makes another machine the same with it. Names what the bundle cannot contain.",
            [3, 4, 7, 9],
            [
                ("acrate export -o paintframe.bundle.toml --update", "the file updated, with your comments in it"),
                ("acrate export --as cyclonedx -o paintframe.json", "a software list for other programs"),
            ]))
        { Apps, File, Form, WithVersions, Catalogue, Pick, Update, Title };
        command.SetAction((parsed, cancel) =>
        {
            using var call = new Call(parsed);
            var request = Request(call, parsed);
            ExportView.Show(call.Output, new Export(call.Session).Run(request, cancel), request.Form);
            return Task.FromResult(ExitCodes.AllAsAsked);
        });
        return command;
    }

    /// <summary>The problem of a text on standard output where JSON was requested.</summary>
    public static Problem NeedsFile() =>
        new(ProblemCode.BadCommandLine, "--json needs a file for the bundle", remedy: "add --output FILE");

    private static ExportRequest Request(Call call, ParseResult parsed)
    {
        var file = parsed.GetValue(File) is { } named && named != InputFile.Standard ? named : null;
        if (file is null && call.Output.IsJson) throw NeedsFile().ToException();
        var form = Read(InventoryWords.Forms, "--as", parsed.GetValue(Form));
        if (parsed.GetValue(Update) && (form != InventoryForm.Bundle || file is null))
            throw new Problem(
                ProblemCode.BadCommandLine, "--update takes a bundle and a file", remedy: "add --output FILE, and leave --as out")
                    .ToException();
        return new ExportRequest(file)
        {
            Title = parsed.GetValue(Title), Form = form, Versions = Read(Versions, "--versions", parsed.GetValue(WithVersions)),
            IsUpdate = parsed.GetValue(Update), IsPicking = parsed.GetValue(Pick),
            Only = parsed.GetValue(Apps) is { Length: > 0 } apps ? call.References(apps) : [],
            Catalogue = parsed.GetValue(Catalogue) is { } catalogue ? SharedArguments.ReadCatalogue(catalogue).Text : null,
        };
    }

    private static T Read<T>(WordTable<T> words, string option, string? text)
        where T : struct, Enum =>
        text is null ? words.Pairs[0].Value : words.TryRead(text, out var value) ? value : throw new Problem(
            ProblemCode.BadCommandLine, $"{option} \"{text}\" cannot be used", $"expected {words.Expected}").ToException();
}
