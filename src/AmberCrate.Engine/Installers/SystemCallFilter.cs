using System.Buffers.Binary;
using System.Runtime.InteropServices;

namespace AmberCrate.Engine.Installers;

/// <summary>
/// A seccomp(2) filter that keeps a foreign program from name spaces, mounts, keys and other parts of the kernel that no
/// installer needs, and from memory that its limits do not count. It is a program of classic BPF, as the kernel's documentation
/// of seccomp filters describes it. On x86 a program can use the calls of i386 too, so these are filtered as well. Every other
/// architecture is refused.
/// </summary>
internal static class SystemCallFilter
{
    private const uint Allow = 0x7fff0000, Refuse = 0x00050000, NotPermitted = 1, NotThere = 38, NoSuchFamily = 97;
    private const ushort Load = 0x20, JumpIfEqual = 0x15, JumpIfAtLeast = 0x35, JumpIfAnyBit = 0x45, Return = 0x06;
    private const uint NumberAt = 0, ArchitectureAt = 4, FirstArgumentAt = 16;
    private const uint NewUserNameSpace = 0x10000000, OtherNumbering = 0x40000000;

    /// <summary>The families of sockets that end at the borders of a network name space: Unix, internet, netlink.</summary>
    private static readonly uint[] Families = [1, 2, 10, 16];

    /// <summary>Calls with one number on every architecture: mounts by file descriptor, and io_uring_setup.</summary>
    private static readonly uint[] RefusedEverywhere = [425, 428, 429, 430, 431, 432, 433, 442];

    /// <summary>memfd_secret, on every architecture.</summary>
    private static readonly uint[] AbsentEverywhere = [447];

    private static readonly Numbers[] Known =
    [
        // mount umount2 pivot_root chroot setns keyctl add_key request_key bpf perf_event_open userfaultfd kexec_load
        // kexec_file_load init_module finit_module delete_module swapon swapoff reboot syslog acct quotactl open_by_handle_at
        new(0xc000003e, CloneCall: 56, Unshare: 272, Socket: 41, [319, 29, 68, 64],
        [
            165, 166, 155, 161, 308, 250, 248, 249, 321, 298, 323, 246, 320, 175, 313, 176, 167, 168, 169, 103, 163, 179, 304,
        ]),
        new(0xc00000b7, CloneCall: 220, Unshare: 97, Socket: 198, [279, 194, 186, 190],
        [
            40, 39, 41, 51, 268, 219, 217, 218, 280, 241, 282, 104, 294, 105, 273, 106, 224, 225, 142, 116, 89, 60, 265,
        ]),

        // Programs of 32 bits on x86; umount and without kexec_file_load, which is not there. socketcall and ipc each do the work
        // of many calls, and a filter cannot see which: both are absent.
        new(0x40000003, CloneCall: 120, Unshare: 310, Socket: 359, [356, 395, 399, 393, 102, 117],
        [
            21, 52, 22, 217, 61, 346, 288, 286, 287, 357, 336, 374, 283, 128, 350, 129, 87, 115, 88, 103, 51, 131, 342,
        ]),
    ];

    /// <summary>The filter, as an array of <c>sock_filter</c>.</summary>
    public static byte[] Bytes()
    {
        var program = new List<Step> { new(Load, ArchitectureAt) };
        foreach (var numbers in Known)
        {
            var section = Section(numbers);
            program.Add(new Step(JumpIfEqual, numbers.Architecture, IfNot: (byte)section.Count));
            program.AddRange(section);
        }

        program.Add(new Step(Return, Refuse | NotThere));
        var bytes = new byte[program.Count * 8];
        for (var at = 0; at < program.Count; at++) program[at].WriteTo(bytes.AsSpan(at * 8));
        return bytes;
    }

    private static List<Step> Section(Numbers numbers)
    {
        const uint CloneByStructure = 435;
        var steps = new List<Step> { new(Load, NumberAt) };
        steps.AddRange([new Step(JumpIfAtLeast, OtherNumbering, IfNot: 1), new Step(Return, Refuse | NotThere)]);

        // Its flags are in memory, where a filter cannot look. The C library takes the older call where this one is not there.
        steps.AddRange([new Step(JumpIfEqual, CloneByStructure, IfNot: 1), new Step(Return, Refuse | NotThere)]);
        foreach (var call in numbers.Absent.Concat(AbsentEverywhere))
            steps.AddRange([new Step(JumpIfEqual, call, IfNot: 1), new Step(Return, Refuse | NotThere)]);
        foreach (var call in numbers.Refused.Concat(RefusedEverywhere))
            steps.AddRange([new Step(JumpIfEqual, call, IfNot: 1), new Step(Return, Refuse | NotPermitted)]);
        foreach (var call in new[] { numbers.CloneCall, numbers.Unshare })
            steps.AddRange(
            [
                new Step(JumpIfEqual, call, IfNot: 4), new Step(Load, FirstArgumentAt),
                new Step(JumpIfAnyBit, NewUserNameSpace, IfNot: 1), new Step(Return, Refuse | NotPermitted),
                new Step(Return, Allow),
            ]);
        steps.AddRange([new Step(JumpIfEqual, numbers.Socket, IfNot: (byte)(Families.Length + 2)), new Step(Load,
            FirstArgumentAt)]);
        steps.AddRange(Families.Select((family, at) => new Step(JumpIfEqual, family, If: (byte)(Families.Length - at))));
        steps.AddRange([new Step(Return, Refuse | NoSuchFamily), new Step(Return, Allow)]);
        return steps;
    }

    /// <param name="Architecture">The number of the architecture (linux/audit.h).</param>
    /// <param name="CloneCall">clone.</param>
    /// <param name="Unshare">unshare.</param>
    /// <param name="Socket">socket.</param>
    /// <param name="Absent">memfd_create, shmget, msgget, semget: memory that neither limits nor the watcher count. Programs take
    /// it for an older kernel, and use /dev/shm.</param>
    /// <param name="Refused">Calls that fail.</param>
    private sealed record Numbers(
        uint Architecture, uint CloneCall, uint Unshare, uint Socket, uint[] Absent, uint[] Refused);

    /// <summary>One instruction: its code, its value, and how many instructions it leaps over.</summary>
    private sealed record Step(ushort Code, uint Value, byte If = 0, byte IfNot = 0)
    {
        public void WriteTo(Span<byte> target)
        {
            MemoryMarshal.Write(target, Code);
            (target[2], target[3]) = (If, IfNot);
            BinaryPrimitives.WriteUInt32LittleEndian(target[4..], Value);
        }
    }
}
