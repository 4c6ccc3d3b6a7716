using AmberCrate.Core.Values;

namespace AmberCrate.Core.Requirements;

/// <summary>What kind of thing a release expects the system to have.</summary>
public enum RequirementKind
{
    /// <summary>A shared library, by the name that programs load it by (its soname).</summary>
    Library,

    /// <summary>A program on the system's path.</summary>
    Program,

    /// <summary>What a script is started by: a path as its first line has it, or a name on the path.</summary>
    Interpreter,

    /// <summary>A module of an interpreter.</summary>
    Module,

    /// <summary>A description of a library for GObject introspection, with its version, such as <c>Gauze-2.0</c>.</summary>
    Typelib,

    /// <summary>A file or folder, by its path.</summary>
    File,

    /// <summary>A package of the system that the app depends on, for reasons that its metadata do not give.</summary>
    Package,
}

/// <summary>The words for <see cref="RequirementKind"/>.</summary>
public static class RequirementWords
{
    /// <summary>A word for each kind.</summary>
    public static WordTable<RequirementKind> Kinds { get; } = new(
        (RequirementKind.Library, "library"), (RequirementKind.Program, "program"),
        (RequirementKind.Interpreter, "interpreter"), (RequirementKind.Module, "module"),
        (RequirementKind.Typelib, "typelib"), (RequirementKind.File, "file"), (RequirementKind.Package, "package"));
}
