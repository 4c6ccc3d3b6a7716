using AmberCrate.Core.Placements;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.CardFiles;

/// <summary>What to write instead, for the mistakes that people make in cards.</summary>
public static class CardHints
{
    /// <summary>A fault with a hint behind it, where there is one.</summary>
    public static FormatFault With(FormatFault fault) =>
        FindHint(fault) is { } hint ? fault with { Message = $"{fault.Message}; {hint}" } : fault;

    private static string? FindHint(FormatFault fault)
    {
        var from = fault.Message.LastIndexOf("found \"", StringComparison.Ordinal);
        if (from < 0) return null;
        var found = fault.Message[(from + "found \"".Length)..].TrimEnd('"');
        var key = fault.Key[(fault.Key.LastIndexOf('.') + 1)..];
        return key switch
        {
            "categories" => WordDistance.Nearest(found, DesktopCategories.Names) is { } near ? $"did you mean {near}?" : null,
            "version" when AppVersion.TryParse(found.TrimStart('v', 'V', '.', '-'), out var version) => $"write \"{version}\"",
            "project_license" when found.Contains(" and ", StringComparison.Ordinal) => "write AND in capitals",
            "project_license" when found.Contains(" or ", StringComparison.Ordinal) => "write OR in capitals",
            "project_license" when found.AsSpan().ContainsAny(',', ';') => "write AND or OR between licences",
            _ => null,
        };
    }
}
