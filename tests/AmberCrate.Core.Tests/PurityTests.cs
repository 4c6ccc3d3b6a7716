using System.Reflection.Metadata;
using System.Reflection.PortableExecutable;
using AmberCrate.Core.Cards;

namespace AmberCrate.Core.Tests;

/// <summary>Core touches no file, network, console, clock or process: its compiled code does not even name them.</summary>
public sealed class PurityTests
{
    private static readonly string[] ForbiddenTypes =
    [
        "System.Console", "System.Random", "System.TimeProvider", "System.Diagnostics.Process", "System.Diagnostics.Stopwatch",
        "System.Threading.Thread", "System.IO.File", "System.IO.FileInfo", "System.IO.Directory", "System.IO.DirectoryInfo",
        "System.IO.FileStream", "System.IO.DriveInfo",
    ];

    private static readonly string[] ForbiddenMembers = ["get_Now", "get_UtcNow", "get_Today", "NewGuid"];

    [Fact]
    public void Core_names_nothing_of_the_machine()
    {
        using var file = new PEReader(File.OpenRead(typeof(AppCard).Assembly.Location));
        var metadata = file.GetMetadataReader();
        var types = metadata.TypeReferences.Select(metadata.GetTypeReference)
            .Select(type => $"{metadata.GetString(type.Namespace)}.{metadata.GetString(type.Name)}")
            .ToList();
        types.ShouldContain("System.Text.StringBuilder", "the test must see what Core refers to");
        types.Intersect(ForbiddenTypes).ShouldBeEmpty();
        // Iterators and asynchronous methods are compiled to ask which thread they are on; nothing else of the environment is
        // allowed.
        metadata.MemberReferences.Select(metadata.GetMemberReference)
            .Where(member => member.Parent.Kind == HandleKind.TypeReference
                && metadata.GetString(metadata.GetTypeReference((TypeReferenceHandle)member.Parent).Name) == "Environment")
            .Select(member => metadata.GetString(member.Name)).ShouldAllBe(name => name == "get_CurrentManagedThreadId");
        types.ShouldNotContain(type => type.StartsWith("System.Net.", StringComparison.Ordinal));
        metadata.MemberReferences.Select(member => metadata.GetString(metadata.GetMemberReference(member).Name))
            .Intersect(ForbiddenMembers)
            .ShouldBeEmpty();
    }

    [Fact]
    public void Core_refers_to_the_framework_and_a_TOML_reader_only() =>
        typeof(AppCard).Assembly.GetReferencedAssemblies().Select(assembly => assembly.Name!)
            .Where(name => !name.StartsWith("System.", StringComparison.Ordinal)).ShouldBe(["Tomlyn"]);
}
