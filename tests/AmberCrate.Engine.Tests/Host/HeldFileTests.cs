using System.Runtime.InteropServices;
using System.Security.Cryptography;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.SystemCalls;
using Microsoft.Win32.SafeHandles;

namespace AmberCrate.Engine.Tests.Host;

public sealed partial class HeldFileTests : IDisposable
{
    private readonly TemporaryFolder _folder = new();

    public void Dispose() => _folder.Dispose();

    [Fact]
    public void A_file_that_was_let_go_can_be_held_though_a_program_being_started_has_a_copy_of_its_handle()
    {
        var path = _folder["artifact"];
        var held = Posix.OpenAlone(path)!;
        Posix.OpenAlone(path).ShouldBeNull();
        using var copy = new SafeFileHandle(Duplicate((int)held.DangerousGetHandle()), ownsHandle: true);
        Posix.Release(held);
        held.Dispose();
        using var next = Posix.OpenAlone(path);
        next.ShouldNotBeNull();
        copy.IsClosed.ShouldBeFalse();
    }

    [Fact]
    public async Task Nobody_keeps_a_file_from_being_read_by_locking_it()
    {
        var bytes = "an artifact"u8.ToArray();
        var digest = Sha256Digest.FromBytes(SHA256.HashData(bytes));
        var path = _folder["artifact"];
        await File.WriteAllBytesAsync(path, bytes);
        using var held = Posix.OpenAlone(path);
        (await File.ReadAllBytesAsync(path)).ShouldBe(bytes);
        using (var file = (await VerifiedFile.FindAsync(path, bytes.Length, digest, default))!.OpenUnchanged())
            file!.Length.ShouldBe(bytes.Length);
        using (new FileStream(path, FileMode.Open, FileAccess.ReadWrite, FileShare.None)) Posix.OpenAlone(path).ShouldBeNull();
    }

    [LibraryImport("libc", EntryPoint = "dup")]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial int Duplicate(int handle);
}
