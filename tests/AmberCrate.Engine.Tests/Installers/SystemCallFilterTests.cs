using System.Buffers.Binary;
using AmberCrate.Engine.Installers;

namespace AmberCrate.Engine.Tests.Installers;

/// <summary>The filter, run by an interpreter of classic BPF that shares no code with it.</summary>
public sealed class SystemCallFilterTests
{
    private const uint X86 = 0x40000003, X64 = 0xc000003e, Arm64 = 0xc00000b7;
    private const string Allowed = "allowed", NotPermitted = "not permitted", NotThere = "not there", NoFamily = "no such family";

    [Theory]
    [InlineData(X64, 1, 0, Allowed)] // write
    [InlineData(X64, 59, 0, Allowed)] // execve
    [InlineData(X64, 41, 1, Allowed)] // a Unix socket
    [InlineData(X64, 41, 2, Allowed)]
    [InlineData(X64, 41, 40, NoFamily)] // AF_VSOCK
    [InlineData(X64, 41, 38, NoFamily)] // AF_ALG
    [InlineData(X64, 165, 0, NotPermitted)] // mount
    [InlineData(X64, 56, 0x10000000, NotPermitted)] // clone with a name space for users
    [InlineData(X64, 56, 0x11, Allowed)]
    [InlineData(X64, 272, 0x10000000, NotPermitted)] // unshare
    [InlineData(X64, 435, 0, NotThere)] // clone3
    [InlineData(X64, 425, 0, NotPermitted)] // io_uring_setup
    [InlineData(X64, 319, 0, NotThere)] // memfd_create
    [InlineData(X64, 447, 0, NotThere)] // memfd_secret
    [InlineData(X64, 29, 0, NotThere)] // shmget
    [InlineData(X64, 68, 0, NotThere)] // msgget
    [InlineData(X64, 64, 0, NotThere)] // semget
    [InlineData(X64, 0x40000000 + 41, 40, NotThere)] // the calls of x32
    [InlineData(X86, 4, 0, Allowed)] // write
    [InlineData(X86, 102, 1, NotThere)] // socketcall, which reaches every family
    [InlineData(X86, 117, 23, NotThere)] // ipc, which reaches shared memory
    [InlineData(X86, 359, 40, NoFamily)] // socket
    [InlineData(X86, 356, 0, NotThere)] // memfd_create
    [InlineData(X86, 395, 0, NotThere)] // shmget
    [InlineData(X86, 399, 0, NotThere)] // msgget
    [InlineData(X86, 393, 0, NotThere)] // semget
    [InlineData(X86, 21, 0, NotPermitted)] // mount
    [InlineData(X86, 120, 0x10000000, NotPermitted)]
    [InlineData(Arm64, 64, 0, Allowed)] // write
    [InlineData(Arm64, 198, 40, NoFamily)]
    [InlineData(Arm64, 279, 0, NotThere)]
    [InlineData(Arm64, 194, 0, NotThere)]
    [InlineData(Arm64, 40, 0, NotPermitted)]
    [InlineData(0x40000028, 4, 0, NotThere)] // ARM of 32 bits, and every other architecture
    [InlineData(0xc00000f3, 64, 0, NotThere)]
    public void A_call_is_answered(uint architecture, uint number, uint first, string answer) =>
        Run(architecture, number, first).ShouldBe(answer);

    private static string Run(uint architecture, uint number, uint first)
    {
        var data = new byte[64];
        BinaryPrimitives.WriteUInt32LittleEndian(data, number);
        BinaryPrimitives.WriteUInt32LittleEndian(data.AsSpan(4), architecture);
        BinaryPrimitives.WriteUInt32LittleEndian(data.AsSpan(16), first);
        var program = SystemCallFilter.Bytes();
        (program.Length % 8).ShouldBe(0);
        (program.Length / 8).ShouldBeLessThanOrEqualTo(4096, "the kernel takes no longer program");
        var value = 0u;
        for (var at = 0; ; at++)
        {
            var step = program.AsSpan(at * 8, 8);
            var operand = BinaryPrimitives.ReadUInt32LittleEndian(step[4..]);
            switch (BinaryPrimitives.ReadUInt16LittleEndian(step))
            {
                case 0x20: value = BinaryPrimitives.ReadUInt32LittleEndian(data.AsSpan((int)operand)); break;
                case 0x15: at += value == operand ? step[2] : step[3]; break;
                case 0x35: at += value >= operand ? step[2] : step[3]; break;
                case 0x45: at += (value & operand) != 0 ? step[2] : step[3]; break;
                case 0x06:
                    return operand switch
                    {
                        0x7fff0000 => Allowed,
                        0x00050001 => NotPermitted,
                        0x00050026 => NotThere,
                        0x00050061 => NoFamily,
                        _ => $"{operand:x}",
                    };
                default: throw new InvalidOperationException($"step {at} is none of classic BPF");
            }
        }
    }
}
