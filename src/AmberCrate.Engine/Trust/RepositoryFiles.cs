using AmberCrate.Core.Values;
using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Trust;

/// <summary>
/// The files of a maintainer's metadata in a published folder. Each role has its newest file under its plain name, for the next
/// publication to go on from, and one under each version. What still lacks signatures is in <c>prepared/</c>; machines do
/// not read it.
/// </summary>
/// <param name="folder">The published folder.</param>
internal sealed class RepositoryFiles(string folder)
{
    private const string PreparedFolder = "prepared", Timestamp = "timestamp";
    private const UnixFileMode Mode =
        UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.GroupRead | UnixFileMode.OtherRead;

    /// <summary>The bytes of a file; null where it is not there.</summary>
    public byte[]? Bytes(string name) =>
        File.Exists(Path.Combine(folder, name)) ? File.ReadAllBytes(Path.Combine(folder, name)) : null;

    /// <summary>The bytes of a role as it is published; null where it is not there.</summary>
    public byte[]? ReadRole(string role) => Bytes($"{role}.json");

    /// <summary>The bytes of a role that waits for signatures; null where it does not.</summary>
    public byte[]? Prepared(string role) => Bytes($"{PreparedFolder}/{role}.json");

    /// <summary>What bytes say; null where there are none that can be read.</summary>
    public static T? Read<T>(byte[]? bytes, Func<ReadOnlyMemory<byte>, T> read)
        where T : class
    {
        try
        {
            return bytes is null ? null : read(bytes);
        }
        catch (MalformedException)
        {
            return null;
        }
    }

    /// <summary>Publishes a role: under its version first, then as the newest.</summary>
    public void Publish(string role, long version, byte[] bytes)
    {
        if (role != Timestamp) AtomicFile.Write(Path.Combine(folder, $"{version}.{role}.json"), bytes, Mode);
        AtomicFile.Write(Path.Combine(folder, $"{role}.json"), bytes, Mode);
        DropPrepared(role);
    }

    /// <summary>Puts a role aside until it has its signatures.</summary>
    public void Prepare(string role, byte[] bytes) =>
        AtomicFile.Write(Path.Combine(folder, PreparedFolder, $"{role}.json"), bytes, Mode);

    /// <summary>Forgets what waits for signatures.</summary>
    public void DropPrepared(string role)
    {
        var path = Path.Combine(folder, PreparedFolder, $"{role}.json");
        if (File.Exists(path)) AtomicFile.Remove([path]);
    }
}
