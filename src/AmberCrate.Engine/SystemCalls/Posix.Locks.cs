using System.Runtime.InteropServices;
using Microsoft.Win32.SafeHandles;

namespace AmberCrate.Engine.SystemCalls;

/// <content>Files that one process holds alone.</content>
internal static partial class Posix
{
    /// <summary>
    /// open(2) and flock(2): opens a regular file of this user to read and write it, makes it where there is none, and holds it
    /// alone. A link at its path is not followed.
    /// </summary>
    /// <returns>Null if another process holds it.</returns>
    /// <exception cref="IOException">It cannot be opened, or is no such file.</exception>
    public static SafeFileHandle? OpenAlone(string path)
    {
        const int ReadWrite = 2, Create = 0x40, CloseOnExec = 0x80000, NotBlocking = 0x800;
        const int OwnerReadWriteAllRead = 0x1a4;
        var opened = OpenModeCall(path, ReadWrite | Create | CloseOnExec | NotBlocking | NoFollow, OwnerReadWriteAllRead);
        if (opened < 0) throw Failed($"cannot open {path}");
        var file = new SafeFileHandle(opened, ownsHandle: true);
        if (!IsOwnRegularFile(file))
        {
            file.Dispose();
            throw new IOException($"{path} is not a regular file of this user");
        }

        if (Hold(file, path)) return file;
        file.Dispose();
        return null;
    }

    /// <summary>
    /// flock(2): lets go of a file that was held alone. Closing it is not enough: a program that another thread is just starting
    /// has a copy of the handle until it runs, and would hold the file for that long.
    /// </summary>
    public static void Release(SafeFileHandle file)
    {
        const int unlock = 8;
        _ = LockCall((int)file.DangerousGetHandle(), unlock);
    }

    /// <summary>
    /// flock(2): holds an open file alone until it is released or its last copy is closed. Only those who ask for the lock
    /// notice it. Reading asks for no lock, so no other user can stop this program from reading a file.
    /// </summary>
    /// <param name="file">The file.</param>
    /// <param name="path">Its path, for the message.</param>
    /// <returns>False if another process holds it.</returns>
    /// <exception cref="IOException">The file system cannot lock it. The file is closed then.</exception>
    public static bool Hold(SafeFileHandle file, string path)
    {
        const int Exclusive = 2, AtOnce = 4, WouldBlock = 11;
        if (LockCall((int)file.DangerousGetHandle(), Exclusive | AtOnce) == 0) return true;
        if (Marshal.GetLastPInvokeError() == WouldBlock) return false;
        var fault = Failed($"cannot lock {path}");
        file.Dispose();
        throw fault;
    }

    /// <summary>
    /// open(2) and flock(2): opens a file that only this program writes, to go on with it or from its beginning. What another
    /// user put at its path, or what has another name elsewhere, is removed and made new.
    /// </summary>
    /// <returns>Null if another process holds it.</returns>
    /// <exception cref="IOException">It cannot be opened or made.</exception>
    public static SafeFileHandle? OpenOwn(string path)
    {
        const int ReadWrite = 2, Create = 0x40, OnlyNew = 0x80, CloseOnExec = 0x80000, NotBlocking = 0x800;
        const int NoEntry = 2, OwnerReadWriteAllRead = 0x1a4;
        const int MostTries = 100;
        for (var tries = 0; ; tries++)
        {
            // Another user can put a file there again and again. That must not go on for ever.
            if (tries == MostTries) throw new IOException($"another user puts files at {path} again and again");
            var opened = OpenCall(path, ReadWrite | CloseOnExec | NotBlocking | NoFollow);
            var isMissing = opened < 0 && Marshal.GetLastPInvokeError() == NoEntry;
            if (opened < 0 && !isMissing)
            {
                File.Delete(path);
                isMissing = true;
            }

            if (isMissing) opened = OpenModeCall(path, ReadWrite | Create | OnlyNew | CloseOnExec | NoFollow,
                OwnerReadWriteAllRead);
            if (opened < 0) throw Failed($"cannot make {path}");
            var file = new SafeFileHandle(opened, ownsHandle: true);
            if (!isMissing && !IsOnlyOwnFile(file))
            {
                file.Dispose();
                File.Delete(path);
                continue;
            }

            if (!Hold(file, path))
            {
                file.Dispose();
                return null;
            }

            // It may have got its final name since it was opened.
            if (IdentityOf(file) == IdentityAt(path)) return file;
            file.Dispose();
        }
    }

    [LibraryImport("libc", EntryPoint = "flock", SetLastError = true)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial int LockCall(int handle, int operation);
}
