namespace AmberCrate.Engine.Rights;

/// <summary>A program of the system that runs another with all rights, after the user has shown that they may.</summary>
public sealed record RaisingWay
{
    /// <summary>The word for running with the rights that are there.</summary>
    public const string None = "none";

    private static readonly RaisingWay[] Known =
    [
        new()
        {
            Name = "sudo", EndsWithUnlessAllowed = [1],
            Leading = (_, kept) => kept.Count == 0 ? ["--"] : [$"--preserve-env={string.Join(',', kept)}", "--"],
        },
        new()
        {
            Name = "run0", EndsWithUnlessAllowed = [1, 126, 127, 203],
            Leading = (here, kept) => [$"--chdir={here}", .. kept.Select(name => $"--setenv={name}"), "--"],
        },
        new() { Name = "pkexec", EndsWithUnlessAllowed = [126, 127], Leading = (_, _) => ["--keep-cwd"] },
    ];

    private RaisingWay()
    {
    }

    /// <summary>The program's name, which is also the word for it.</summary>
    public required string Name { get; init; }

    /// <summary>Its path on this machine.</summary>
    public string Program { get; private init; } = "";

    /// <summary>
    /// With what it ends where the user may not, or does not want to. A program that it has run may end with the same.
    /// </summary>
    public required IReadOnlyList<int> EndsWithUnlessAllowed { get; init; }

    /// <summary>What comes before the command, of the folder to be in and the names of variables to keep.</summary>
    private Func<string, IReadOnlyList<string>, IReadOnlyList<string>> Leading { get; init; } = (_, _) => [];

    /// <summary>The words for all ways, the first to be tried first.</summary>
    public static IReadOnlyList<string> Names => [.. Known.Select(way => way.Name), None];

    /// <summary>Finds the way to be used.</summary>
    /// <param name="wanted">The word for it; null for the first that is on this machine.</param>
    /// <param name="find">Finds a program of the system by its name.</param>
    /// <returns>The way; null where there is none, or none is wanted.</returns>
    public static RaisingWay? Find(string? wanted, Func<string, string?> find) => Known
        .Where(way => wanted is null || way.Name == wanted)
        .Select(way => find(way.Name) is { } program ? way with { Program = program } : null)
        .FirstOrDefault(way => way is not null);

    /// <summary>The arguments that make it run a command.</summary>
    /// <param name="folder">The folder where to run it.</param>
    /// <param name="kept">The names of variables that the command shall see as they are here. Their values are not among the
    /// arguments, where others could read them.</param>
    /// <param name="command">The command.</param>
    public IReadOnlyList<string> Arguments(string folder, IReadOnlyList<string> kept, IEnumerable<string> command) =>
        [.. Leading(folder, kept), .. command];
}
