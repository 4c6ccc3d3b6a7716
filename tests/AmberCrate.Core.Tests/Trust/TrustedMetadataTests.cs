using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using AmberCrate.Core.Trust;

namespace AmberCrate.Core.Tests.Trust;

/// <summary>Delegations, which our own publications do not have yet. The attacks on the rest are tests of the program.</summary>
public sealed class TrustedMetadataTests
{
    private static readonly DateTimeOffset Now = new(2026, 11, 1, 0, 0, 0, TimeSpan.Zero);

    [Fact]
    public void Delegated_targets_are_found_in_order_and_circles_end()
    {
        var trusted = Repository(
            ("targets", Targets(["own"], Role("paints", "paints/*"), Role("all", "*/*"))),
            ("paints", Targets(["paints/red"], Role("all", "paints/*"))),
            ("all", Targets(["paints/red", "paints/blue", "sounds/rain", "own"], Role("paints", "*/*"))));
        Found(trusted, "own").ShouldBe("targets");
        Found(trusted, "paints/red").ShouldBe("paints");
        Found(trusted, "paints/blue").ShouldBe("all");
        Found(trusted, "sounds/rain").ShouldBe("all");
        Found(trusted, "sounds/snow").ShouldBeNull();
        Found(trusted, "paints/deep/red").ShouldBeNull("a pattern does not reach over a slash");
    }

    [Fact]
    public void Behind_a_terminating_delegation_nobody_is_asked()
    {
        var trusted = Repository(
            ("targets", Targets([], Role("paints", "paints/*", isTerminating: true), Role("all", "*/*"))),
            ("paints", Targets(["paints/red"])), ("all", Targets(["paints/blue", "sounds/rain"])));
        Found(trusted, "paints/red").ShouldBe("paints");
        Found(trusted, "paints/blue").ShouldBeNull();
        Found(trusted, "sounds/rain").ShouldBe("all");
    }

    [Theory]
    [InlineData("root")]
    [InlineData("../evil")]
    [InlineData("a/b")]
    [InlineData("")]
    public void Names_of_roles_are_names_of_files(string name) => Should.Throw<TrustException>(
        () => Repository(("targets", Targets([], Role(name, "*")))));

    private static string? Found(TrustedMetadata trusted, string path) => trusted.Find(path)?.Length switch
    {
        7 => "targets",
        6 => "paints",
        3 => "all",
        _ => null,
    };

    /// <summary>A repository whose one key has signed everything; signatures are taken on trust here.</summary>
    private static TrustedMetadata Repository(params (string Name, string Text)[] roles)
    {
        var rule = $"{{\"keyids\":[\"{KeyId}\"],\"threshold\":1}}";
        var trusted = new TrustedMetadata(
            Signed($"{{{Head("root")},\"keys\":{{\"{KeyId}\":{Key}}},\"roles\":{{\"root\":{rule},\"timestamp\":{rule},"
                + $"\"snapshot\":{rule},\"targets\":{rule}}}}}"), new AnySignature(), Now);
        var files = roles.Select(role => (role.Name, Bytes: Signed(role.Text.Replace(
            "LENGTH", $"{role.Name.Length}", StringComparison.Ordinal)))).ToList();
        var snapshot = Signed($"{{{Head("snapshot")},\"meta\":{{{string.Join(',', files.Select(
            file => $"\"{file.Name}.json\":{{\"version\":1}}"))}}}}}");
        trusted.TakeTimestamp(Signed($"{{{Head("timestamp")},\"meta\":{{\"snapshot.json\":{{\"version\":1}}}}}}"));
        trusted.TakeSnapshot(snapshot);
        foreach (var (name, bytes) in files) trusted.TakeTargets(bytes, name, name == "targets" ? null : "targets");
        return trusted;
    }

    private static string Targets(string[] paths, params string[] delegations) => $"{{{Head("targets")},\"targets\":{{"
        + string.Join(',', paths.Select(
            path => $"\"{path}\":{{\"length\":LENGTH,\"hashes\":{{\"sha256\":\"{new string('0', 64)}\"}}}}"))
        + $"}},\"delegations\":{{\"keys\":{{\"{KeyId}\":{Key}}},\"roles\":[{string.Join(',', delegations)}]}}}}";

    private static string Role(string name, string paths, bool isTerminating = false) =>
        $"{{\"name\":\"{name}\",\"keyids\":[\"{KeyId}\"],\"threshold\":1,\"terminating\":{(isTerminating ? "true" : "false")},"
            + $"\"paths\":[\"{paths}\"]}}";

    private static string Head(string type) =>
        $"\"_type\":\"{type}\",\"spec_version\":\"1.0.0\",\"version\":1,\"expires\":\"2027-01-01T00:00:00Z\"";

    private static byte[] Signed(string content) =>
        Encoding.UTF8.GetBytes($"{{\"signatures\":[{{\"keyid\":\"{KeyId}\",\"sig\":\"00\"}}],\"signed\":{content}}}");

    private const string Key = "{\"keytype\":\"ed25519\",\"keyval\":{\"public\":\"00\"},\"scheme\":\"ed25519\"}";

    private static string KeyId
    {
        get
        {
            using var key = JsonDocument.Parse(Key);
            return Convert.ToHexStringLower(SHA256.HashData(CanonicalJson.Write(key.RootElement)));
        }
    }

    private sealed class AnySignature : ISignatureCheck
    {
        public bool IsValid(TrustKey key, ReadOnlySpan<byte> message, ReadOnlySpan<byte> signature) => true;
    }
}
