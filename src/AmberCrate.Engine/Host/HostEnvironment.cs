using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Host;

/// <summary>What the program finds around it when it is started. Handed in, so that tests set it.</summary>
public sealed record HostEnvironment
{
    private static readonly string[] LocaleVariables = ["LC_ALL", "LC_MESSAGES", "LANG"];

    /// <summary>Reads an environment variable; null where it is not set.</summary>
    public required Func<string, string?> Variable { get; init; }

    /// <summary>The names of all environment variables.</summary>
    public IReadOnlyList<string> VariableNames { get; init; } = [];

    /// <summary>The clock, and waits.</summary>
    public TimeProvider Clock { get; init; } = TimeProvider.System;

    /// <summary>The folder that counts as <c>/</c> where the system's own packages and libraries are looked at.</summary>
    public string SystemRoot { get; init; } = "/";

    /// <summary>The base folder of relative paths.</summary>
    public string Folder { get; init; } = "/";

    /// <summary>The machine's name.</summary>
    public string MachineName { get; init; } = "machine";

    /// <summary>The name of the user who runs the program, also where they have root's rights for it; null for
    /// unknown.</summary>
    public string? Person { get; init; }

    /// <summary>Makes what sends requests over the network; null for the framework's own.</summary>
    public Func<HttpMessageHandler>? Network { get; init; }

    /// <summary>Receives what the program does step by step, for a user who wants to know; nobody listens by default.</summary>
    public Action<string> Trace { get; init; } = _ => { };

    /// <summary>The words that start this program again, as for more rights.</summary>
    public IReadOnlyList<string> Program { get; init; } = ["acrate"];

    /// <summary>The arguments of its command line.</summary>
    public IReadOnlyList<string> Arguments { get; init; } = [];

    /// <summary>Whether there is a user who can be asked: on the terminal, or by a program that asks for a password.</summary>
    public bool HasTerminal { get; init; }

    /// <summary>The value of PATH; empty where it is not set.</summary>
    public string SearchPath => Variable("PATH") ?? "";

    /// <summary>
    /// The languages that the user reads other than English, the most exact first, as <see cref="LanguageTag.ListFallbacks"/>
    /// has them.
    /// </summary>
    /// <param name="chosen">The chosen language; null for the environment's language for messages.</param>
    public IReadOnlyList<string> Languages(string? chosen = null) => LanguageTag.ListFallbacks(
        chosen ?? LocaleVariables.Select(Variable).FirstOrDefault(value => value is { Length: > 0 }));

    /// <summary>A path as an absolute one.</summary>
    public string FullPath(string path) => Path.GetFullPath(path, Folder);
}
