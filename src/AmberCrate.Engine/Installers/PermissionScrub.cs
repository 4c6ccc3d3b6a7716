using AmberCrate.Core.Machine;
using AmberCrate.Engine.Archives;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Installers;

/// <summary>
/// Makes what a vendor's installer has put into a folder as harmless as what comes out of an archive: it belongs to the user of
/// this process, only the owner can change it, and nothing of it runs with another user's rights.
/// </summary>
internal static class PermissionScrub
{
    /// <summary>Capabilities of a file, and lists of who may do what beside its mode.</summary>
    private static readonly string[] Attributes =
        ["security.capability", "system.posix_acl_access", "system.posix_acl_default"];

    private static readonly string[] SystemFolders = ["/usr/", "/bin/", "/lib/", "/lib64/", "/sbin/"];

    private static readonly uint Group = Posix.EffectiveGroup();

    /// <summary>Tames a folder, which no program works in any more.</summary>
    /// <param name="folder">The folder.</param>
    /// <param name="seenAs">The path where it will be; the program may have written it into links.</param>
    /// <returns>The links that led out of the folder, which are removed: they would lead anywhere on the machine.</returns>
    /// <exception cref="RefusedEntryException">It holds a device, a pipe, a socket, or a name that is not UTF-8.</exception>
    public static IReadOnlyList<string> Tame(string folder, string seenAs)
    {
        if (RawTree.StrangeNameIn(folder) is { } strange)
            throw new RefusedEntryException($"a name that is not UTF-8, \"{strange}\"");
        List<string> removed = [];
        TameAll(folder, folder, seenAs, removed);
        return removed;
    }

    private static void TameAll(string folder, string top, string seenAs, List<string> removed)
    {
        TameOne(folder, isFolder: true);
        foreach (var path in Directory.EnumerateFileSystemEntries(folder))
        {
            if (Posix.LinkAt(path) is { } target)
            {
                Posix.ChangeOwner(path, Posix.EffectiveUser(), Group);
                if (StaysInside(target, Path.GetRelativePath(top, folder), seenAs)) continue;
                File.Delete(path);
                removed.Add($"{Path.GetRelativePath(top, path)} -> {target}");
            }
            else if (Directory.Exists(path)) TameAll(path, top, seenAs, removed);
            else if (Posix.TypeOf(path) == Posix.FileType.Regular) TameOne(path, isFolder: false);
            else throw new RefusedEntryException($"a pipe, a socket or a device, \"{Path.GetFileName(path)}\"");
        }
    }

    /// <summary>
    /// Whether a link stays in the folder. An absolute one may lead to where the folder will be, or to the system's own programs
    /// and libraries. A relative one may climb at its beginning only: behind another link, <c>..</c> leads somewhere else.
    /// </summary>
    private static bool StaysInside(string target, string within, string seenAs)
    {
        var names = target.Split('/', StringSplitOptions.RemoveEmptyEntries).Where(name => name != ".").ToList();
        var climbs = target.StartsWith('/') ? 0 : names.TakeWhile(name => name == "..").Count();
        if (names.Skip(climbs).Contains("..")) return false;
        if (target.StartsWith('/'))
            return SystemFolders.Append(seenAs + "/").Any(one => $"{target}/".StartsWith(one, StringComparison.Ordinal));
        return climbs <= (within == "." ? 0 : within.Split('/').Length);
    }

    private static void TameOne(string path, bool isFolder)
    {
        Posix.ChangeOwner(path, Posix.EffectiveUser(), Group);
        foreach (var attribute in Attributes) Posix.RemoveAttribute(path, attribute);
        const UnixFileMode owner = UnixFileMode.UserRead | UnixFileMode.UserWrite;
        var mode = File.GetUnixFileMode(path) & FolderFiller.ProgramMode | owner;
        File.SetUnixFileMode(path, isFolder ? mode | UnixFileMode.UserExecute : mode);
    }
}
