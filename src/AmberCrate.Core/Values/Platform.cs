using System.Diagnostics.CodeAnalysis;

namespace AmberCrate.Core.Values;

/// <summary>
/// The platform of an artifact as an AppStream platform triplet <c>architecture-kernel-environment</c>,
/// such as <c>x86_64-linux-gnu</c>; each part may be <c>any</c>.
/// </summary>
public sealed record Platform
{
    /// <summary>What a platform must look like, for messages.</summary>
    public const string Expected = "an AppStream platform triplet such as x86_64-linux-gnu, aarch64-linux-gnu or any-linux-any";

    private readonly string _text;

    private Platform(string architecture, string kernel, string environment)
    {
        (Architecture, Kernel, Environment, OpenParts) =
            (architecture, kernel, environment, Open(architecture) + Open(kernel) + Open(environment));
        _text = $"{Architecture}-{Kernel}-{Environment}";
    }

    /// <summary>A machine of an architecture that is not known here: only artifacts for any architecture run on it.</summary>
    public static Platform OfOtherMachine { get; } = new(ProcessorArchitecture.Other, "linux", "gnu");

    /// <summary>The processor architecture, <c>any</c> for all.</summary>
    public string Architecture { get; }

    /// <summary>The kernel, <c>any</c> for all.</summary>
    public string Kernel { get; }

    /// <summary>The C library or environment, <c>any</c> for all.</summary>
    public string Environment { get; }

    /// <summary>How many parts are <c>any</c>.</summary>
    internal int OpenParts { get; }

    /// <summary>Reads a triplet; false when it is not one.</summary>
    public static bool TryParse(string text, [NotNullWhen(true)] out Platform? platform)
    {
        var parts = text.Split('-');
        var valid = parts.Length == 3
            && (parts[0] == ProcessorArchitecture.Any || ProcessorArchitecture.Named(parts[0]) is not null)
            && parts[1..].All(part => part.Length is > 0 and <= 20 && part.All(char.IsAsciiLetterOrDigit));
        platform = valid ? new Platform(parts[0], parts[1], parts[2]) : null;
        return valid;
    }

    /// <summary>Reads a triplet.</summary>
    /// <exception cref="MalformedException">The text is not a platform.</exception>
    public static Platform Parse(string text) =>
        TryParse(text, out var platform) ? platform : throw new MalformedException($"expected {Expected}, found \"{text}\"");

    /// <summary>Whether an artifact for this platform runs on a machine of that one.</summary>
    public bool RunsOn(Platform machine) =>
        Fits(Architecture, machine.Architecture) && Fits(Kernel, machine.Kernel) && Fits(Environment, machine.Environment);

    /// <inheritdoc/>
    public override string ToString() => _text;

    private static int Open(string part) => part == "any" ? 1 : 0;

    private static bool Fits(string offered, string wanted) => offered == "any" || wanted == "any" || offered == wanted;
}
