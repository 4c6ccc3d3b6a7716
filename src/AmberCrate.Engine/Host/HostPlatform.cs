using System.Runtime.InteropServices;
using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Host;

/// <summary>Which of the platforms of artifacts this machine is.</summary>
public static class HostPlatform
{
    /// <summary>The platform of this machine.</summary>
    public static Platform Current { get; } = FromArchitecture(RuntimeInformation.OSArchitecture);

    /// <summary>The platform of machines of an architecture, by its name in the framework.</summary>
    public static Platform FromArchitecture(Architecture architecture) => architecture switch
    {
        Architecture.X64 => On("x86_64"),
        Architecture.Arm64 => On("aarch64"),
        Architecture.X86 => On("i386"),
        Architecture.Arm => On("armhf"),
        Architecture.S390x => On("s390x"),
        Architecture.Ppc64le => On("ppc64le"),
        Architecture.RiscV64 => On("riscv64"),
        _ => Platform.OfOtherMachine,
    };

    /// <summary>
    /// Whether this machine can run programs of a platform: its own, the 32-bit one of its family, or by an emulator that the
    /// kernel has been configured for.
    /// </summary>
    public static bool CanRun(Platform platform) => platform.RunsOn(Current)
        || (platform.Kernel is "linux" or "any"
            && ProcessorArchitecture.Named(Current.Architecture)?.Runs32BitOf == platform.Architecture)
        || File.Exists($"/proc/sys/fs/binfmt_misc/qemu-{platform.Architecture}");

    private static Platform On(string architecture) => Platform.Parse($"{architecture}-linux-gnu");
}
