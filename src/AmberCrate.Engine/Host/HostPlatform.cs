using System.Runtime.InteropServices;
using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Host;

/// <summary>Which of the platforms of artifacts this machine is.</summary>
public static class HostPlatform
{
    /// <summary>The platform of this machine.</summary>
    public static Platform Current { get; } = Platform.Parse(RuntimeInformation.OSArchitecture switch
    {
        Architecture.X64 => "x86_64-linux-gnu",
        Architecture.Arm64 => "aarch64-linux-gnu",
        Architecture.X86 => "i386-linux-gnu",
        Architecture.Arm => "armhf-linux-gnu",
        Architecture.S390x => "s390x-linux-gnu",
        Architecture.Ppc64le => "ppc64le-linux-gnu",
        Architecture.RiscV64 => "riscv64-linux-gnu",
        _ => "any-linux-gnu",
    });

    /// <summary>
    /// Whether this machine can run programs of a platform: its own, the 32-bit one of its family, or by an emulator that the
    /// kernel has been told of.
    /// </summary>
    public static bool CanRun(Platform platform) => platform.RunsOn(Current)
        || (platform.Kernel is "linux" or "any" && (platform.Architecture, Current.Architecture) is ("i386", "x86_64")
            or ("armhf", "aarch64"))
        || File.Exists($"/proc/sys/fs/binfmt_misc/qemu-{platform.Architecture}");
}
