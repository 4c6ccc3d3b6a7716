using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Placing;

/// <summary>
/// Lets a new version share the room of files that it has in common with the previous version: by a reflink where the file system
/// can do that, otherwise by a hard link. The shelf is never changed in place, so that both stay what they are.
/// </summary>
internal static class ShelfSharing
{
    private const string Ending = ".acrate-shared";
    private const int BufferSize = 1 << 16;

    /// <summary>Shares what can be shared.</summary>
    /// <param name="folder">The new version, still hidden.</param>
    /// <param name="manifest">Its manifest.</param>
    /// <param name="before">The folder of the version before it.</param>
    /// <param name="old">The manifest of that.</param>
    /// <returns>How many bytes are shared.</returns>
    public static long Share(string folder, ShelfManifest manifest, string before, ShelfManifest old)
    {
        var known = old.Files.Where(file => file.Size > 0).ToLookup(file => (file.Sha256!, file.Size), file => file.Path);
        var shared = 0L;
        bool? canClone = null;
        foreach (var file in manifest.Files.Where(file => file.Size > 0))
        {
            if (known[(file.Sha256!, file.Size)].FirstOrDefault() is not { } same) continue;
            var (own, other) = (Path.Combine(folder, file.Path), Path.Combine(before, same));
            if (ShareOne(own, other, ref canClone)) shared += file.Size;
        }

        return shared;
    }

    private static bool ShareOne(string own, string other, ref bool? canClone)
    {
        var beside = own + Ending;
        try
        {
            // The old one may have been changed by hand since its digest was taken.
            if (!HaveSameBytes(own, other) || File.GetUnixFileMode(own) != File.GetUnixFileMode(other)) return false;
            if (canClone != false)
            {
                canClone = Posix.Clone(other, own);
                if (canClone == true) return true;
            }

            Posix.Link(other, beside);
            Posix.Rename(beside, own);
            return true;
        }
        catch (Exception fault) when (fault is IOException or UnauthorizedAccessException)
        {
            // Sharing is a saving, no need: another file system, too many links, a file that is gone.
            File.Delete(beside);
            return false;
        }
    }

    private static bool HaveSameBytes(string one, string other)
    {
        var (found, old) = (new FileInfo(one), new FileInfo(other));
        if (old.LinkTarget is not null || !old.Exists || old.Length != found.Length) return false;
        using var first = File.OpenRead(one);
        using var second = File.OpenRead(other);
        var (left, right) = (new byte[BufferSize], new byte[BufferSize]);
        while (true)
        {
            var read = first.ReadAtLeast(left, BufferSize, throwOnEndOfStream: false);
            if (second.ReadAtLeast(right, BufferSize, throwOnEndOfStream: false) != read
                || !left.AsSpan(0, read).SequenceEqual(right.AsSpan(0, read))) return false;
            if (read < BufferSize) return true;
        }
    }
}
