using System.Globalization;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Observing;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Installers;

/// <summary>
/// How a foreign program is started by bwrap(1): in a root of its own that has the system's programs and libraries and nothing
/// else of the machine, without network, as a user without rights, with limits that it cannot lift. All parts come from folders
/// that only root can write to.
/// </summary>
internal sealed class ConfinedRoot
{
    /// <summary>How much a program may write to the folders that are in memory.</summary>
    private const int MemoryFolderBytes = 64 << 20;

    private const int MostProcesses = 512, MostOpenFiles = 4096;

    private static readonly string[] SystemFolders = ["bin", "sbin", "lib", "lib32", "lib64", "libx32"];

    /// <summary>What programs read of /etc to find their libraries, fonts and the time. Nothing of it is about this
    /// machine.</summary>
    private static readonly string[] Settings =
        ["/etc/ld.so.cache", "/etc/ld.so.conf", "/etc/ld.so.conf.d", "/etc/alternatives", "/etc/fonts", "/etc/localtime"];

    /// <summary>What desktops and the interpreters of programs read there.</summary>
    private static readonly string[] DesktopSettings =
        ["/etc/xdg", "/etc/gtk-2.0", "/etc/gtk-3.0", "/etc/gtk-4.0", "/etc/dconf", "/etc/dbus-1", "/etc/ssl/certs", "/etc/perl",
            "/etc/python3", "/etc/python3.11", "/etc/python3.12", "/etc/python3.13", "/etc/X11", "/etc/vulkan", "/etc/mime.types",
            "/etc/nsswitch.conf"];

    private readonly string _bwrap, _prlimit, _setpriv;
    private readonly uint? _user;

    private ConfinedRoot(string bwrap, string prlimit, string setpriv, uint? user) =>
        (_bwrap, _prlimit, _setpriv, _user) = (bwrap, prlimit, setpriv, user);

    /// <summary>Finds what it takes.</summary>
    /// <returns>Null where a program of it is missing.</returns>
    public static ConfinedRoot? Find() =>
        ProgramSearch.Trusted("bwrap") is { } bwrap
        && ProgramSearch.Trusted("prlimit") is { } prlimit
        && ProgramSearch.Trusted("setpriv") is { } setpriv
            ? new ConfinedRoot(bwrap, prlimit, setpriv, UnprivilegedUser.Number())
            : null;

    /// <summary>The words that start a program.</summary>
    /// <param name="program">The program and its arguments.</param>
    /// <param name="place">Where it runs; null for nowhere, to see whether this works at all.</param>
    /// <param name="mostBytes">How large a file of it may become.</param>
    /// <param name="filter">The descriptor to read the filter of system calls from.</param>
    public IReadOnlyList<string> Words(IEnumerable<string> program, ProgramPlace? place, long mostBytes, int filter) =>
    [
        _bwrap, "--unshare-ipc", "--unshare-pid", "--unshare-net", "--unshare-uts", "--unshare-cgroup-try", "--die-with-parent",
        "--new-session", "--hostname", "localhost", .. Rights(), "--seccomp", Text(filter), .. System(place),
        "--dev", "/dev", .. InMemory("/dev/shm"), "--proc", "/proc", .. InMemory("/tmp"), .. place is null ? [] : Folders(place),
        "--remount-ro", "/dev", "--remount-ro", "/", "--", .. Limits(mostBytes), .. program,
    ];

    /// <summary>
    /// Gives all folders of a program to the user as whom it runs; nothing where that is this process' own user.
    /// </summary>
    public void GiveTo(IEnumerable<string> paths)
    {
        if (_user is not { } user) return;
        foreach (var path in paths) Posix.ChangeOwner(path, user, user);
    }

    /// <summary>
    /// For root: real name spaces without one for users, so that the program is nobody outside either; for all others bwrap(1)
    /// takes one for users by itself. The capabilities serve to enter its folder and to become that user, and are gone with that.
    /// </summary>
    private string[] Rights() => _user is null ? ["--cap-drop", "ALL"] :
        ["--cap-drop", "ALL", "--cap-add", "CAP_SETUID", "--cap-add", "CAP_SETGID", "--cap-add", "CAP_SETPCAP",
            "--cap-add", "CAP_DAC_READ_SEARCH"];

    private IEnumerable<string> Limits(long mostBytes)
    {
        yield return _prlimit;
        yield return "--core=0";
        yield return $"--nofile={MostOpenFiles}";
        yield return $"--fsize={mostBytes}";
        yield return $"--data={ProgramUsage.MostMemory}";

        // The processes of a user count together with all else that they have open.
        if (_user is not null) yield return $"--nproc={MostProcesses}";
        yield return "--";
        yield return _setpriv;
        if (_user is { } user)
            foreach (var word in (string[])["--reuid", Text(user), "--regid", Text(user), "--clear-groups",
                "--bounding-set=-all"])
                yield return word;
        yield return "--inh-caps=-all";
        yield return "--no-new-privs";
        yield return "--";
    }

    private List<string> System(ProgramPlace? place)
    {
        var root = (place?.System ?? "/").TrimEnd('/');
        List<string> words = ["--ro-bind", $"{root}/usr", "/usr"];
        foreach (var folder in SystemFolders.Select(name => $"/{name}"))
        {
            if (new FileInfo(root + folder).LinkTarget is { } target) words.AddRange(["--symlink", target, folder]);
            else if (Directory.Exists(root + folder)) words.AddRange(["--ro-bind", root + folder, folder]);
        }

        if (place?.Visible is { } app) words.AddRange(Mapped(root, app, place.Mapped));
        words.AddRange(OpenFolder("/etc"));
        foreach (var setting in place?.IsDesktop == true ? [.. Settings, .. DesktopSettings] : Settings)
            words.AddRange(["--ro-bind-try", root + setting, setting]);
        if (place?.IsDesktop == true) words.AddRange(Person(place));
        return words;
    }

    /// <summary>
    /// Lays folders of an app over the system's. Where the system has no such folder, the one above it becomes a temporary one
    /// with everything in it that the system has there, as in a launcher for a mapped start.
    /// </summary>
    private static IEnumerable<string> Mapped(string root, string app, IReadOnlyList<InsidePath> mapped)
    {
        foreach (var parent in mapped.GroupBy(path => path.Text[..path.Text.LastIndexOf('/')], StringComparer.Ordinal))
        {
            var there = $"{root}/{parent.Key}";
            if (parent.Any(path => !Path.Exists($"{root}/{path}")))
            {
                foreach (var word in (string[])["--tmpfs", $"/{parent.Key}"]) yield return word;
                foreach (var entry in Directory.Exists(there) ? Directory.GetFileSystemEntries(there) : [])
                {
                    var seen = entry[root.Length..];
                    foreach (var word in (string[])(new FileInfo(entry).LinkTarget is { } target
                        ? ["--symlink", target, seen]
                        : ["--ro-bind", entry, seen])) yield return word;
                }
            }

            foreach (var path in parent)
            {
                foreach (var word in (string[])["--ro-bind", $"{app}/{path}", $"/{path}"]) yield return word;
            }
        }
    }

    /// <summary>A list of users with this one in it, and the number of a machine that is no real one.</summary>
    private string[] Person(ProgramPlace place)
    {
        var user = _user ?? Posix.EffectiveUser();
        var (users, groups, machine) =
            (Path.Combine(place.Own, "passwd"), Path.Combine(place.Own, "group"), Path.Combine(place.Own, "machine-id"));
        File.WriteAllText(users, $"root:x:0:0:root:/root:/bin/sh\nperson:x:{user}:{user}:person:{place.Home}:/bin/sh\n");
        File.WriteAllText(groups, $"root:x:0:\nperson:x:{user}:\n");
        File.WriteAllText(machine, new string('a', 32) + "\n");
        return ["--ro-bind", users, "/etc/passwd", "--ro-bind", groups, "/etc/group", "--ro-bind", machine, "/etc/machine-id"];
    }

    private static List<string> Folders(ProgramPlace place)
    {
        List<string> words = [];
        var lenders = place.Visible is { } app ? LauncherFile.FindLenders(app) : [];
        foreach (var folder in new[] { place.Own, place.SeenAs, place.Visible }.OfType<string>()
            .Concat(lenders.SelectMany(lender => new[] { lender.Link, lender.Folder })).SelectMany(Above).Distinct())
            words.AddRange(OpenFolder(folder));
        if (place.Visible is { } visible) words.AddRange(["--ro-bind", visible, visible]);
        foreach (var (link, folder) in lenders) words.AddRange(["--ro-bind", folder, folder, "--symlink", folder, link]);
        if (place.Shared is var (shared, seenAs)) words.AddRange(["--bind", shared, seenAs]);
        words.AddRange(["--bind", place.Own, place.Own, "--bind", place.Folder, place.SeenAs, "--chdir", place.SeenAs]);
        return words;
    }

    /// <summary>The folders above one, the outermost first, as far as the new root does not have them already.</summary>
    private static IEnumerable<string> Above(string folder)
    {
        var found = new Stack<string>();
        for (var above = Path.GetDirectoryName(folder); above is { Length: > 1 }; above = Path.GetDirectoryName(above))
            found.Push(above);
        return found.Where(one => one is not ("/tmp" or "/usr" or "/etc" or "/dev" or "/proc")
            && !one.StartsWith("/usr/", StringComparison.Ordinal));
    }

    private static string[] OpenFolder(string folder) => ["--perms", "0755", "--dir", folder];

    private static string[] InMemory(string folder) => ["--size", Text(MemoryFolderBytes), "--perms", "1777", "--tmpfs", folder];

    private static string Text(long number) => number.ToString(CultureInfo.InvariantCulture);
}
