using System.Net;
using System.Net.Sockets;
using AmberCrate.Tests;

namespace AmberCrate.Cli.Tests;

/// <summary>An installer that tries all it can to get out of its confinement, run as root and as another user.</summary>
public sealed class HostileInstallerTests
{
    /// <summary>Each attempt that succeeds writes "GOT"; the last line tells that all of them were made.</summary>
    private const string Script = """
        #!/bin/sh
        into=$1 host=$2 port=$3 process=$4 abstract=$5
        got() { echo "GOT $*"; }
        [ "$(id -u)" = 0 ] && got "the user root"
        grep -q '^Cap[A-Z][a-z]*:.*[1-9a-f]' /proc/self/status && got capabilities
        grep -q '^NoNewPrivs:.1' /proc/self/status || got "new privileges"
        for secret in /etc/shadow /etc/machine-id "$host/home/secret"; do cat "$secret" >/dev/null 2>&1 && got "$secret"; done
        for folder in /home /root /run /var /sys /opt /srv /mnt /media; do [ -e "$folder" ] && got "$folder"; done
        for file in /usr/acrate-was-here /etc/acrate-was-here /acrate-was-here /dev/acrate-was-here; do
            touch "$file" 2>/dev/null && got "to write $file"
        done
        touch "$host/acrate-was-here" "$host/home/acrate-was-here" 2>/dev/null
        [ -w /proc/sys/kernel/core_pattern ] && got "settings of the kernel"
        mount -o remount,rw / 2>/dev/null && got "a writable /"
        mount -t tmpfs none "$HOME" 2>/dev/null && got "a mount"
        unshare --user true 2>/dev/null && got "a name space for users"
        unshare --user --map-root-user true 2>/dev/null && got "to be root in a name space"
        unshare --mount true 2>/dev/null && got "a name space for mounts"
        kill -0 "$process" 2>/dev/null && got "a process of the machine"
        [ "$(ls -d /proc/[0-9]* | wc -l)" -gt 12 ] && got "the processes of the machine"
        [ -e /proc/self/fd/9 ] && got "an open file of its starter"
        (: >/dev/tty) 2>/dev/null && got "a terminal"
        mknod "$into/device" c 1 3 2>/dev/null && got "a device"
        [ -n "$(ls /dev/shm)" ] && got "the shared memory of the machine"
        perl -MSocket -MIPC::SysV=IPC_PRIVATE -e '
            sub got { print "GOT @_\n" } my ($port, $abstract, $path) = @ARGV; my ($net, $name, $file, $other);
            socket($net, PF_INET, SOCK_STREAM, 0) and connect($net, sockaddr_in($port, inet_aton("127.0.0.1"))) and got("the network");
            socket($name, PF_UNIX, SOCK_STREAM, 0) and connect($name, pack("Sa*", AF_UNIX, "\0$abstract")) and got("an abstract socket");
            socket($file, PF_UNIX, SOCK_STREAM, 0) and connect($file, sockaddr_un($path)) and got("a socket by path");
            socket($other, 40, SOCK_STREAM, 0) and got("a socket of another family");
            my $in_memory = "m"; (syscall(319, $in_memory, 0) >= 0) and got("a file in memory") if `uname -m` eq "x86_64\n";
            shmget(IPC_PRIVATE, 1 << 20, 0600) and got("shared memory of System V");
            print "perl has tried\n"' "$port" "$abstract" "$host/socket" 2>/dev/null
        perl -e '$much = "x" x (5 << 30); print "GOT 5 GiB of memory\n"' 2>/dev/null
        mkdir -p "$into/bin"; printf '#!/bin/sh\necho hemmed\n' > "$into/bin/truss-tally"; chmod 6755 "$into/bin/truss-tally"
        printf 'x' > "$into/open"; chmod 666 "$into/open"; mkdir "$into/wide"; chmod 1777 "$into/wide"
        ln -s /etc/shadow "$into/shadow"; ln -s ../../../../../etc "$into/etc"
        echo "all has been tried"
        """;

    [Theory]
    [InlineData(true, true)]
    [InlineData(true, false)]
    [InlineData(false, false)]
    public Task Nothing_of_the_machine_can_be_reached(bool asRoot, bool allUsers) =>
        AttackAsync(asRoot, allUsers, isConfined: true);

    [Fact]
    public Task The_same_attempts_reach_much_of_it_where_the_installer_is_not_confined() =>
        AttackAsync(asRoot: false, allUsers: false, isConfined: false);

    private static async Task AttackAsync(bool asRoot, bool allUsers, bool isConfined)
    {
        await using var sandbox = InstallerTests.With(Script, seconds: 60);
        if (allUsers) sandbox.MakeImage();
        string[] scope = allUsers ? ["--all-users"] : [];
        if (allUsers) sandbox.Run("catalogue", "add", "--all-users", "guild", "guild").ShouldEnd(0);
        Directory.CreateDirectory(sandbox["home"]);
        File.WriteAllText(sandbox["home", "secret"], "the combination of the safe\n");
        if (!asRoot) sandbox.BecomeUser("23456");
        using var network = new TcpListener(IPAddress.Loopback, 0);
        network.Start();
        var name = $"acrate-{Guid.NewGuid():N}";
        using var abstractSocket = Listening(new UnixDomainSocketEndPoint("\0" + name));
        using var socket = Listening(new UnixDomainSocketEndPoint(sandbox["socket"]));
        string[] given =
        [
            sandbox.Folder, $"{((IPEndPoint)network.LocalEndpoint).Port}", $"{Environment.ProcessId}", name,
        ];
        sandbox.SystemPrograms[isConfined ? "nothing-to-hide" : "bwrap"] = null;
        sandbox.Before = "exec 9</etc/hostname";
        var put = sandbox.Run(
        [
            "install", "truss-tally", "--yes", "--allow-unconfined", .. scope,
            .. given.SelectMany(word => new[] { "--installer-argument", $"truss-tally={word}" }),
        ]);
        put.ShouldExitWith(isConfined ? 0 : 12);
        if (!isConfined) put.Out.ShouldContain("why: it takes more than ");
        var state = allUsers ? sandbox["root", "var", "lib", "amber-crate"] : sandbox["root", ".local", "state", "amber-crate"];
        var log = File.ReadAllText(Path.Combine(state, "logs", "00001", "truss-tally.log"));
        if (isConfined) log.ShouldContain("all has been tried\n");
        if (File.Exists("/usr/bin/perl")) log.ShouldContain("perl has tried\n");
        if (!isConfined)
        {
            foreach (var reached in new[] { "/home", "the network", "an abstract socket", "a socket of another family" })
                log.ShouldContain($"GOT {reached}\n");
            return;
        }

        log.ShouldNotContain("GOT ");
        log.ShouldContain("acrate removed a link that leads out of the app: shadow -> /etc/shadow\n");
        log.ShouldContain("acrate removed a link that leads out of the app: etc -> ../../../../../etc\n");
        File.Exists(sandbox["acrate-was-here"]).ShouldBeFalse();
        File.Exists(sandbox["home", "acrate-was-here"]).ShouldBeFalse();
        var shelf = allUsers ? sandbox["root", "opt", "amber-crate", "shelf"]
            : sandbox["root", ".local", "share", "amber-crate", "shelf"];
        foreach (var path in Directory.EnumerateFileSystemEntries(
            shelf, "*", SearchOption.AllDirectories).Where(path => new FileInfo(path).LinkTarget is null))
        {
            (File.GetUnixFileMode(path) & ~(UnixFileMode)0x1ED).ShouldBe(UnixFileMode.None, path);
            Owner(path).ShouldBe(asRoot ? Owner("/proc/self") : "23456", path);
        }
    }

    [Theory]
    [InlineData("dd if=/dev/zero of=\"$1/big\" bs=1M count=2000", "File size limit exceeded", "it has written more than")]
    [InlineData("n=0; while :; do n=$((n+1)); dd if=/dev/zero of=\"$1/$n\" bs=1M count=200 status=none; done",
        "it has written more than")]
    [InlineData("mkdir \"$1/a\"; cd \"$1/a\"; ln -s / l; "
        + "dd if=/dev/zero of=x bs=1M count=900; dd if=/dev/zero of=y bs=1M count=900; "
        + "sleep 30", "it has written more than")]
    [InlineData("mkdir \"$1/a\"; n=0; while [ $n -lt 400 ]; do n=$((n+1)); sleep 100 & done; wait; while :; do sleep 100 & done",
        "Cannot fork", "it had not ended", "it has started more than 512 processes")]
    [InlineData("cd \"$1\"; n=0; while [ $n -lt 60 ]; do n=$((n+1)); d=$(printf 'd%.0s' $(seq 200)); "
        + "mkdir $d && cd $d; done; sleep 30",
        "it has made a folder that cannot be looked into")]
    [InlineData("mkfifo \"$1/pipe\"", "a pipe, a socket or a device")]
    public async Task What_takes_too_much_is_ended_and_leaves_nothing(string command, params string[] says)
    {
        await using var sandbox = InstallerTests.With($"#!/bin/bash\nexec 2>&1\n{command}\n", seconds: 20);
        var put = sandbox.Run("install", "truss-tally", "--yes");

        // What it has put there is not accepted; otherwise it failed.
        put.ShouldExitWith(command.StartsWith("mkfifo", StringComparison.Ordinal) ? 5 : 12);
        says.ShouldContain(one => put.Out.Contains(one, StringComparison.Ordinal), put.Out);
        sandbox.Tree("root").ShouldBeEmpty();
        Directory.Exists(sandbox["root", ".cache", "amber-crate", "installer-truss-tally"]).ShouldBeFalse();
    }

    private static Socket Listening(UnixDomainSocketEndPoint where)
    {
        var socket = new Socket(AddressFamily.Unix, SocketType.Stream, ProtocolType.Unspecified);
        socket.Bind(where);
        socket.Listen();
        return socket;
    }

    private static string Owner(string path)
    {
        using var process = System.Diagnostics.Process.Start(
            new System.Diagnostics.ProcessStartInfo("/usr/bin/stat", ["-c", "%u", path])
            {
                RedirectStandardOutput =
                true, UseShellExecute = false
            })!;
        return process.ReadOutput().Trim();
    }
}
