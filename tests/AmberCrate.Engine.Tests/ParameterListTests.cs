using System.Reflection;
using System.Runtime.CompilerServices;
using AmberCrate.Core.Plans;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Tests;

/// <summary>A call with more than six arguments cannot be read: a record says what belongs together.</summary>
public sealed class ParameterListTests
{
    private const int Most = 6;

    [Fact]
    public void No_parameter_list_is_longer_than_six() => new[] { typeof(Plan).Assembly, typeof(Session).Assembly }
        .SelectMany(assembly => assembly.GetTypes())
        .Where(type => !type.IsDefined(typeof(CompilerGeneratedAttribute)) && !type.Name.Contains('<'))
        .SelectMany(type => type.GetMembers(BindingFlags.Instance | BindingFlags.Static | BindingFlags.Public
            | BindingFlags.NonPublic | BindingFlags.DeclaredOnly).OfType<MethodBase>())
        .Where(method => !method.IsDefined(typeof(CompilerGeneratedAttribute)) && !method.Name.Contains('<')
            && (method.Attributes & MethodAttributes.PinvokeImpl) == 0 && method.GetParameters().Length > Most)
        .Where(method => !IsOfRecord(method) && !method.Name.EndsWith("Call", StringComparison.Ordinal))
        .Select(method => $"{method.DeclaringType!.Name}.{method.Name} ({method.GetParameters().Length})")
        .ShouldBeEmpty();

    /// <summary>The list of a record names its properties. System calls have the lists that the kernel has given them.</summary>
    private static bool IsOfRecord(MethodBase method) =>
        method.DeclaringType!.GetMethod("PrintMembers", BindingFlags.Instance | BindingFlags.NonPublic) is not null
        && (method.IsConstructor || method.Name == "Deconstruct");
}
