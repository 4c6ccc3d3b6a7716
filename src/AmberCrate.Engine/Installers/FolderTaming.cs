using AmberCrate.Core.Machine;
using AmberCrate.Engine.Archives;
using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Installers;

/// <summary>
/// Makes what a vendor's installer has put into a folder as harmless as what comes out of an archive: it belongs to the user of
/// this process, nobody else can change it, and nothing of it runs with another user's rights.
/// </summary>
internal static class FolderTaming
{
    /// <summary>Capabilities of a file, and lists of who may do what beside its mode.</summary>
    private static readonly string[] Attributes =
        ["security.capability", "system.posix_acl_access", "system.posix_acl_default"];

    private static readonly uint Group = Posix.EffectiveGroup();

    /// <summary>Tames a folder, which no program works in any more.</summary>
    /// <exception cref="RefusedEntryException">It holds a device, a pipe, a socket, or a name that is not UTF-8.</exception>
    public static void Tame(string folder)
    {
        if (RawTree.StrangeNameIn(folder) is { } strange)
            throw new RefusedEntryException($"a name that is not UTF-8, \"{strange}\"");
        TameAll(folder);
    }

    private static void TameAll(string folder)
    {
        TameOne(folder, isFolder: true);
        foreach (var path in Directory.EnumerateFileSystemEntries(folder))
        {
            if (new FileInfo(path).LinkTarget is not null) Posix.ChangeOwner(path, Posix.EffectiveUser(), Group);
            else if (Directory.Exists(path)) TameAll(path);
            else if (Posix.TypeOf(path) == Posix.FileType.Regular) TameOne(path, isFolder: false);
            else throw new RefusedEntryException($"a pipe, a socket or a device, \"{Path.GetFileName(path)}\"");
        }
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
