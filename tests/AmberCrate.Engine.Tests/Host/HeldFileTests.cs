using System.Runtime.InteropServices;
using AmberCrate.Engine.Host;
using Microsoft.Win32.SafeHandles;

namespace AmberCrate.Engine.Tests.Host;

public sealed partial class HeldFileTests : IDisposable
{
    private readonly TemporaryFolder _folder = new();

    public void Dispose() => _folder.Dispose();

    [Fact]
    public void A_file_that_was_let_go_can_be_read_though_a_program_being_started_has_a_copy_of_its_handle()
    {
        var path = _folder["artifact"];
        var held = Posix.OpenAlone(path)!;
        Posix.OpenAlone(path).ShouldBeNull();
        using var copy = new SafeFileHandle(Duplicate((int)held.DangerousGetHandle()), ownsHandle: true);
        Posix.Release(held);
        held.Dispose();
        using var read = new FileStream(path, FileMode.Open, FileAccess.Read, FileShare.ReadWrite);
        read.Length.ShouldBe(0);
        copy.IsClosed.ShouldBeFalse();
    }

    [LibraryImport("libc", EntryPoint = "dup")]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial int Duplicate(int handle);
}
