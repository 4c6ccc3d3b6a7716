using System.Text;
using AmberCrate.Engine.Observing;

namespace AmberCrate.Engine.Tests.Observing;

/// <summary>What programs lack, read from made-up ones.</summary>
public sealed class ProgramCheckTests : IDisposable
{
    private readonly TemporaryFolder _folder = new();

    public void Dispose() => _folder.Dispose();

    [Fact]
    public void Libraries_are_looked_for_where_the_loader_looks()
    {
        Write("system/lib64/ld-test.so.1", Elf(null, [], ""));
        Write("system/usr/lib/x86_64-linux-gnu/libusual.so.1", Elf(null, [], ""));
        Write("system/opt/odd/libcached.so.2", Elf(null, ["libnobody-asks.so"], ""));
        Write("system/usr/lib/libwrong.so.1", Elf(null, [], "", machine: 183));
        Write(
            "system/etc/ld.so.cache",
            Cache(("libcached.so.2", "/opt/odd/libcached.so.2"), ("libgone.so.3", "/opt/odd/libgone.so.3")));
        Write(
            "system/var/lib/apt/lists/somewhere_Packages",
            Encoding.UTF8.GetBytes("Package: libgone3\nVersion: 1\n\nPackage: libgauze-2-1t64\n"));
        Write("app/lib/libbeside.so.1", Elf(null, ["libgauze-2.so.1", "libusual.so.1"], ""));
        Write("app/bin/tool", Elf(
            "/lib64/ld-test.so.1", ["libbeside.so.1", "libusual.so.1", "libcached.so.2", "libgone.so.3", "libwrong.so.1"],
            "$ORIGIN/../lib"));
        Faults("tool").ShouldBe(
        [
            "tool needs libgauze-2.so.1, which this machine lacks; the system's package libgauze-2-1t64 has it",
            "tool needs libgone.so.3, which this machine lacks; the system's package libgone3 has it",
            "tool needs libwrong.so.1, which this machine lacks; search the system's packages for libwrong.so.1",
        ]);
    }

    [Theory]
    [InlineData("#!/bin/known\nexec /bin/known /usr/lib/tool/main.py \"$@\"\n", "/usr/lib/tool/main.py")]
    [InlineData("#!/bin/known\n. /etc/tool.conf\n. '/etc/tool.conf'\n", "/etc/tool.conf")]
    [InlineData("#!/bin/known\nexec /bin/known /usr/lib/there.py\n", null)]
    [InlineData("#!/bin/known\nexec $HOME/usr/lib/tool/main.py; see https://x.example/usr/lib/tool/main.py\n", null)]
    [InlineData("#!/bin/known\nexec /usr/lib/nowhere/at/all.py\n", null)]
    [InlineData("no script: /usr/lib/tool/main.py", null)]
    public void A_script_that_names_what_lies_in_its_own_folder_is_told(string text, string? named)
    {
        Write("system/bin/known", []);
        Write("system/usr/lib/there.py", []);
        foreach (var own in new[] { "usr/lib/tool/main.py", "usr/lib/there.py", "etc/tool.conf" }) Write($"app/{own}", []);
        Write("app/bin/tool", Encoding.UTF8.GetBytes(text));
        var check = new ProgramCheck(_folder["system"], "/bin", new SystemPackages(_folder["system"]));
        check.Displaced(_folder["app", "bin", "tool"], _folder["app"]).ShouldBe(named is null ? [] : [named]);
    }

    [Theory]
    [InlineData("#!/bin/odd\n", "tool is a script for /bin/odd, which this machine lacks")]
    [InlineData("#!/usr/bin/env -S LANG=C odd -x\n", "tool is a script for odd, which this machine lacks")]
    [InlineData("#!/bin/known\n", null)]
    [InlineData("#! /usr/bin/env known\n", null)]
    [InlineData("neither script nor program", null)]
    public void A_script_needs_its_interpreter(string text, string? fault)
    {
        Write("system/bin/known", []);
        Write("app/bin/tool", Encoding.UTF8.GetBytes(text));
        Faults("tool").ShouldBe(fault is null ? [] : [fault]);
    }

    [Fact]
    public void A_loader_that_is_not_there_is_named_and_files_cut_anywhere_do_no_harm()
    {
        var whole = Elf("/lib/ld-musl-test.so.1", ["libusual.so.1"], "");
        Write("app/bin/tool", whole);
        Faults("tool")[0].ShouldBe("tool needs the loader /lib/ld-musl-test.so.1, which this machine lacks");
        for (var length = 0; length < whole.Length; length += 7)
        {
            Write("app/bin/tool", whole[..length]);
            Should.NotThrow(() => Faults("tool"));
        }

        var cache = Cache(("liba.so", "/a"));
        for (var length = 0; length < cache.Length; length++) Should.NotThrow(() => LoaderCache.Read(cache.AsSpan(0, length)));
    }

    [Fact]
    public void Files_of_the_system_have_an_owner()
    {
        Write("system/var/lib/dpkg/info/cloth-tools:amd64.list", Encoding.UTF8.GetBytes("/.\n/bin\n/bin/hem\n"));
        var packages = new SystemPackages(_folder["system"]);
        packages.OwnerOf("/usr/bin/hem").ShouldBe("cloth-tools");
        packages.OwnerOf("/usr/bin/he").ShouldBeNull();
        new SystemPackages(_folder["nowhere"]).OwnerOf("/usr/bin/hem").ShouldBeNull();
    }

    private List<string> Faults(string name) =>
        [.. new ProgramCheck(_folder["system"], "/bin", new SystemPackages(_folder["system"])).Faults(
            name, _folder["app", "bin", name])];

    private void Write(string path, byte[] content)
    {
        Directory.CreateDirectory(Path.GetDirectoryName(_folder[path])!);
        File.WriteAllBytes(_folder[path], content);
    }

    /// <summary>A 64-bit ELF file of nothing but headers: what the loader reads, and no code.</summary>
    internal static byte[] Elf(string? interpreter, string[] needed, string runPath, ushort machine = 62)
    {
        const int Headers = 64, HeaderSize = 56, Count = 3, Strings = Headers + Count * HeaderSize;
        var strings = new List<byte> { 0 };
        List<(long Tag, long Value)> dynamic = [.. needed.Select(name => (1L, Add(name)))];
        if (runPath.Length > 0) dynamic.Add((29, Add(runPath)));
        var interpreterAt = Add(interpreter ?? "");
        dynamic.AddRange([(5, Strings), (10, strings.Count), (0, 0)]);
        var dynamicAt = Strings + strings.Count;
        byte[] entries =
            [.. dynamic.SelectMany(
                entry => (byte[])[.. BitConverter.GetBytes(entry.Tag), .. BitConverter.GetBytes(entry.Value)])];
        byte[] head =
        [
            0x7F, (byte)'E', (byte)'L', (byte)'F', 2, 1, 1, .. new byte[9], 3, 0, .. BitConverter.GetBytes(machine), 1, 0, 0, 0,
            .. new byte[8], .. BitConverter.GetBytes((long)Headers), .. new byte[8], .. new byte[4], 64, 0, HeaderSize, 0,
            Count, 0, .. new byte[6],
        ];
        return
        [
            .. head, .. Header(1, 0, dynamicAt + entries.Length), .. Header(2, dynamicAt, entries.Length),
            .. Header(interpreter is null ? 0 : 3, Strings + interpreterAt, 1), .. strings, .. entries,
        ];

        long Add(string text)
        {
            strings.AddRange([.. Encoding.UTF8.GetBytes(text), 0]);
            return strings.Count - Encoding.UTF8.GetByteCount(text) - 1;
        }

        static byte[] Header(int type, long offset, long size) =>
            [
                .. BitConverter.GetBytes(type), .. new byte[4], .. BitConverter.GetBytes(offset),
                .. BitConverter.GetBytes(offset), .. new byte[8], .. BitConverter.GetBytes(size),
                .. BitConverter.GetBytes(size), .. new byte[8],
            ];
    }

    private static byte[] Cache(params (string Name, string Path)[] libraries)
    {
        const int Head = 48, Entry = 24;
        var strings = new List<byte>();
        var entries = new List<byte>();
        foreach (var (name, path) in libraries)
        {
            entries.AddRange(
            [
                .. BitConverter.GetBytes(1), .. BitConverter.GetBytes(Add(name)), .. BitConverter.GetBytes(Add(path)),
                .. new byte[12],
            ]);
        }

        return
        [
            .. "glibc-ld.so.cache1.1"u8, .. BitConverter.GetBytes(libraries.Length), .. BitConverter.GetBytes(strings.Count),
            .. new byte[20], .. entries, .. strings,
        ];

        int Add(string text)
        {
            var at = Head + libraries.Length * Entry + strings.Count;
            strings.AddRange([.. Encoding.UTF8.GetBytes(text), 0]);
            return at;
        }
    }
}
