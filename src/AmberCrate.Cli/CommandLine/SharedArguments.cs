using System.CommandLine;
using System.Globalization;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;

namespace AmberCrate.Cli.CommandLine;

/// <summary>Arguments and options that several commands have, and how they are read.</summary>
internal static class SharedArguments
{
    /// <summary>An argument that names a bundle.</summary>
    public static DeclaredArgument<string> CreateBundle() => new("BUNDLE", Completion.File)
    {
        Description = "A bundle or kit: a file, an address, or CATALOGUE:BUNDLE; - for standard input",
    };

    /// <summary>An option that names a platform.</summary>
    public static Option<string> CreatePlatform(string description) =>
        new DeclaredOption<string>(OptionGroup.Selection, "--platform") { Description = description, HelpName = "PLATFORM" };

    /// <summary>Reads a platform; null if none is named.</summary>
    /// <exception cref="ProblemException">The text is not a platform.</exception>
    public static Platform? ReadPlatform(string? text) => text is null ? null
        : Platform.TryParse(text, out var platform) ? platform
        : throw new Problem(
            ProblemCode.BadCommandLine, $"--platform \"{text}\" cannot be used", $"expected {Platform.Expected}").ToException();

    /// <summary>Reads the number of a run; null if none is named.</summary>
    /// <exception cref="ProblemException">The text is not a number from 1.</exception>
    public static long? ReadRunNumber(string? text) => text is null ? null
        : long.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var number) && number > 0 ? number
        : throw new Problem(
            ProblemCode.BadCommandLine, $"\"{text}\" is not the number of a run", "expected a whole number from 1",
            "the end of a run names it").ToException();

    /// <summary>Reads the name of a catalogue.</summary>
    /// <exception cref="ProblemException">It cannot be the name of a catalogue.</exception>
    public static CatalogueName ReadCatalogue(string text) =>
        CatalogueName.TryParse(text, out var name) ? name
        : throw new Problem(
            ProblemCode.BadCommandLine,
            $"\"{text}\" cannot be the name of a catalogue",
            $"expected {CatalogueName.Expected}").ToException();
}
