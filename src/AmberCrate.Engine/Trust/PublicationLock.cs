using AmberCrate.Core.Problems;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Trust;

/// <summary>
/// The one writer of a published folder: two publications at once would give one version to two contents. The kernel holds the
/// lock, so that it ends with its process. The file stays, empty.
/// </summary>
public sealed class PublicationLock : IDisposable
{
    private const string FileName = ".publishing";

    private readonly FileStream _file;

    private PublicationLock(FileStream file) => _file = file;

    /// <summary>Takes the lock.</summary>
    /// <param name="folder">The published folder; it is made where it is missing.</param>
    /// <exception cref="ProblemException">Another process holds it, or the folder cannot be written.</exception>
    public static PublicationLock Acquire(string folder)
    {
        try
        {
            AtomicFile.MakeFolder(folder);
            var path = Path.Combine(folder, FileName);
            var file = new FileStream(path, new FileStreamOptions
            {
                Mode = FileMode.OpenOrCreate, Access = FileAccess.ReadWrite, Share = FileShare.ReadWrite,
                UnixCreateMode =
                    UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.GroupRead | UnixFileMode.GroupWrite,
            });
            if (!Posix.Hold(file.SafeFileHandle, path))
            {
                file.Dispose();
                throw new Problem(
                    ProblemCode.Locked, $"another process is publishing to {folder}", "nothing has been published",
                    "wait until it has ended, then run the command again").ToException();
            }

            AtomicFile.Sweep(folder, isDeep: true);
            return new PublicationLock(file);
        }
        catch (Exception fault) when (IoProblems.IsExpected(fault))
        {
            throw IoProblems.ToProblem(fault, $"{folder} cannot be written").ToException(fault);
        }
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        Posix.Release(_file.SafeFileHandle);
        _file.Dispose();
    }
}
