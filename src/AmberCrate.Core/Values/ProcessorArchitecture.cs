namespace AmberCrate.Core.Values;

/// <summary>A processor architecture that artifacts can be for, with its names in the formats that have their own.</summary>
/// <param name="Name">Its name in AppStream platform triplets and on the shelf.</param>
/// <param name="ElfMachine">Its number in ELF files (<c>e_machine</c>, System V ABI).</param>
/// <param name="ImageName">Its name in OCI images (the values of GOARCH).</param>
/// <param name="Runs32BitOf">The 32-bit architecture whose programs its processors run too; null for none.</param>
public sealed record ProcessorArchitecture(string Name, int ElfMachine, string ImageName, string? Runs32BitOf = null)
{
    /// <summary>The name for artifacts that run on every architecture.</summary>
    public const string Any = "any";

    /// <summary>The name for the architecture of a machine that is not in <see cref="All"/>.</summary>
    public const string Other = "other";

    /// <summary>Every architecture that is known.</summary>
    public static IReadOnlyList<ProcessorArchitecture> All { get; } =
    [
        new("x86_64", 62, "amd64", "i386"), new("aarch64", 183, "arm64", "armhf"), new("riscv64", 243, "riscv64"),
        new("ppc64le", 21, "ppc64le"), new("s390x", 22, "s390x"), new("i386", 3, "386"), new("armhf", 40, "arm"),
    ];

    /// <summary>Their names, for messages and pages.</summary>
    public static string Names { get; } = string.Join(", ", All.Select(one => one.Name));

    /// <summary>The architecture of a name; null if none has it.</summary>
    public static ProcessorArchitecture? Named(string name) => All.FirstOrDefault(one => one.Name == name);

    /// <summary>The architecture of a number in ELF files; null if none has it.</summary>
    public static ProcessorArchitecture? OfElf(int machine) => All.FirstOrDefault(one => one.ElfMachine == machine);
}
